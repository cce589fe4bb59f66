import type { Schemas } from "../../api/client";
import type { Listed } from "../../ui/styles";

export type Words = Listed<Schemas["SupperWords"]>;
export type Told = Listed<Schemas["SupperPreview"]>;
export type Result = Told["result"];
export type PlacedStep = Result["steps"][number];
export type SavedSupper = Listed<Schemas["SupperOut"]>;

/** What the cook is working on: kept in this browser until it is saved. */
export interface SupperDraft {
  name: string;
  words: Words;
}

export const LANES = ["dough", "hands", "hearth", "table"] as const;

/** A moment of the supper's own clock, read from its text: 2026-11-28T19:30+00:00 is 19:30. */
export function clock(at: string): string {
  return at.slice(11, 16);
}

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

/** The weekday of a local date. */
export function day(at: string): string {
  return DAYS[new Date(`${at.slice(0, 10)}T12:00:00Z`).getUTCDay()] ?? "";
}

export function dayAndClock(at: string): string {
  return `${day(at)} ${clock(at)}`;
}

/** Minutes since the epoch: real time, whatever the clocks do. */
export function minuteOf(at: string): number {
  return new Date(at).getTime() / 60_000;
}

/** The local text of a moment `minutes` away from one the engine told, by that one's own offset. */
export function moved(at: string, minutes: number): string {
  const offset = /([+-])(\d\d):(\d\d)$/.exec(at);
  const shift = offset ? (offset[1] === "-" ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3])) : 0;
  const local = new Date((minuteOf(at) + minutes + shift) * 60_000);
  return local.toISOString().slice(0, 16);
}

export function spell(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${String(whole)} min`;
  const rest = whole % 60;
  return rest
    ? `${String(Math.floor(whole / 60))} h ${String(rest).padStart(2, "0")}`
    : `${String(whole / 60)} h`;
}
