import { bakeTime } from "../../ui/time";
import type { Coming, Happened, Live } from "./types";

export interface Stages {
  launchedMs: number | null;
  pulledMs: number | null;
  endedMs: number | null;
}

type Told = Pick<Happened, "id" | "kind" | "at" | "payload">;

/** What was told and not taken back, by its times. */
export function standing<One extends Told>(happened: readonly One[]): One[] {
  const gone = new Set(happened.filter((one) => one.kind === "bake.undone").map((one) => one.payload.event));
  return happened
    .filter((one) => one.kind !== "bake.undone" && !gone.has(one.id))
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || a.id.localeCompare(b.id));
}

/** Of two launches, pulls or ends the first counts. */
export function stages(happened: readonly Told[]): Stages {
  const counted = standing(happened);
  const first = (kind: string) => {
    const one = counted.find((event) => event.kind === kind);
    return one ? Date.parse(one.at) : null;
  };
  return {
    launchedMs: first("bake.launched"),
    pulledMs: first("bake.pulled"),
    endedMs: first("bake.ended"),
  };
}

/** What was told last, to be taken back. */
export function last(happened: readonly Told[]): Told | null {
  const undoable = standing(happened).filter((one) => one.kind !== "bake.ended");
  return undoable.at(-1) ?? null;
}

type Part = "base" | "rim" | "cheese";

/** The latest swatch of a part within the last minute: what the cook has just matched. */
export function matched(happened: readonly Told[], part: Part, nowMs: number): number | null {
  const looks = standing(happened).filter(
    (one) => one.kind === "bake.seen" && typeof one.payload[part] === "number",
  );
  const one = looks.at(-1);
  return one && nowMs - Date.parse(one.at) < 60_000 ? Number(one.payload[part]) : null;
}

export interface Next {
  text: string;
  /** Its moment, s after launch; negative seconds left mean that it is due since. */
  leftS: number;
  coming: Coming | null;
}

/** The one thing to do next while it bakes: what is planned, then looking, then pulling. */
export function nextOf(live: Pick<Live, "coming" | "pull">, nowS: number): Next {
  const planned = [...live.coming].sort((a, b) => a.at_s - b.at_s)[0];
  const pull = live.pull;
  if (planned && (!pull || planned.at_s <= Math.max(pull.likely, nowS)))
    return { text: planned.label, leftS: planned.at_s - nowS, coming: planned };
  if (!pull) return { text: "Look at it", leftS: 0, coming: null };
  if (nowS < pull.low) return { text: "Look at it", leftS: pull.low - nowS, coming: null };
  return { text: "Pull it", leftS: pull.likely - nowS, coming: null };
}

/** When: in 0:28, now, or since 0:12. */
export function when(leftS: number): string {
  if (leftS > 4) return `in ${bakeTime(leftS)}`;
  return leftS > -5 ? "now" : `due since ${bakeTime(-leftS)}`;
}

const SAID: Record<string, string> = {
  "bake.read": "reading",
  "bake.launched": "launch",
  "bake.seen": "look",
  "bake.sign": "sign",
  "bake.skipped": "left out",
  "bake.pulled": "pull",
  "bake.done": "done",
};

/** What is taken back, in a word or two. */
export function said(one: Told): string {
  const what = one.payload.do ?? one.payload.kind;
  return typeof what === "string" ? what.replaceAll("_", " ") : (SAID[one.kind] ?? one.kind);
}
