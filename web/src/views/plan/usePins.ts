import { useState } from "react";
import { ownStorage } from "../../api/locker";
import { byPlainNames } from "../../ui/drafts";
import type { Controls, Draft, PlanResult } from "./types";

/** A variant as it was when it was pinned: enough to draw it beside others, and to go back to it. */
export interface Pin {
  id: number;
  /** What tells it apart, as words to be compared: only those that differ are shown. */
  facts: Record<string, string>;
  draft: Draft;
  controls: Controls;
  word: string;
  doneS: number;
  lookS: number;
  lateS: number;
  t_s: number[];
  base_l: number[];
  rim_l: number[];
  cheese_l: number[];
}

const MOST = 3;

function read(key: string): Pin[] {
  try {
    const kept = byPlainNames(ownStorage.getItem(key) ?? "[]") as Pin[];
    return Array.isArray(kept) ? kept.slice(0, MOST) : [];
  } catch {
    return [];
  }
}

/** Up to three pinned variants, kept in this browser over a reload. */
export function usePins(owner: string) {
  const key = `pins ${owner}`;
  const [pins, setPins] = useState(() => read(key));
  const keep = (next: Pin[]) => {
    setPins(next);
    ownStorage.setItem(key, JSON.stringify(next));
  };
  return {
    pins,
    full: pins.length >= MOST,
    pin: (made: Omit<Pin, "id">) => {
      const id = Math.max(0, ...pins.map((p) => p.id)) + 1;
      keep([...pins.slice(pins.length >= MOST ? 1 : 0), { ...made, id }]);
    },
    unpin: (id: number) => {
      keep(pins.filter((p) => p.id !== id));
    },
  };
}

/** Every third record: enough for a band a few hundred px long. */
export function thinned(result: PlanResult): Pick<Pin, "t_s" | "base_l" | "rim_l" | "cheese_l"> {
  const traces = result.result.traces;
  const some = (values: readonly number[]) =>
    values.filter((_, i) => (traces.t_s[i] ?? 0) >= 0 && i % 3 === 0);
  return {
    t_s: some(traces.t_s),
    base_l: some(traces.base_l),
    rim_l: some(traces.rim_l),
    cheese_l: some(traces.cheese_l),
  };
}
