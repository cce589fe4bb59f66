import { evenings } from "./clock";
import { type Next, nextOf, type Stages } from "./bakeStages";
import type { Live } from "./bakeTypes";

/** On a rack so long before the knife, s. */
export const REST_S = 150;

/** Something to be told of at its moment, ms since the epoch; the key says it is the same thing though its moment moves. */
export interface Due {
  key: string;
  text: string;
  atMs: number;
}

/** When the next pizza can go in: by the last answer, or while nobody can be asked, by how long a deck takes. */
export function launchMs(live: Live | null, stage: Stages, heatOnMs: number): number | null {
  if (live?.launch) return heatOnMs + live.launch.at_s * 1000;
  if (stage.beforeMs !== null && live?.next) return stage.beforeMs + (live.next.back_s ?? 0) * 1000;
  return null;
}

/** What hands are to do now before a launch: the last of their steps that is due, or null. */
export function handsNow(live: Live | null, atMs: number | null, nowMs: number): string | null {
  if (atMs === null || nowMs >= atMs) return null;
  const due = (live?.hands ?? []).filter((one) => atMs + one.at_s * 1000 <= nowMs);
  return due.at(-1)?.label ?? null;
}

/** The next thing that calls: what hands do before a launch, the launch, what is planned, a look, the pull, the knife. */
export function dueOf(stage: Stages, live: Live | null, heatOnMs: number, nowMs: number): Due | null {
  if (stage.endedMs !== null) return null;
  const of = `${String(stage.pizza)} `;
  if (stage.pulledMs !== null)
    return { key: `${of}cut`, text: "Cut it now", atMs: stage.pulledMs + REST_S * 1000 };
  if (stage.launchedMs !== null) {
    if (!live) return null;
    const nowS = (nowMs - stage.launchedMs) / 1000;
    const next: Next = nextOf(live, nowS);
    // Each turn beside a flame is a call of its own.
    const which = next.coming?.repeats ? ` at ${String(next.coming.at_s)}` : "";
    return { key: of + next.text + which, text: next.text, atMs: nowMs + next.leftS * 1000 };
  }
  const atMs = launchMs(live, stage, heatOnMs);
  if (atMs === null) return null;
  const hands = (live?.hands ?? []).find((one) => atMs + one.at_s * 1000 > nowMs - CALLS_MS);
  if (hands) return { key: of + hands.label, text: hands.label, atMs: atMs + hands.at_s * 1000 };
  return { key: `${of}launch`, text: "Launch now", atMs };
}

/** A step of hands calls for so long, then the next one does, ms. */
const CALLS_MS = 15_000;
/** A page that did not look at its clock for so long slept, ms; of a virtual evening so many times as long. */
export const SLEPT_MS = 5000 * evenings;

/** What came due while the page slept, from the moment it last looked to now. */
export function missed(due: Due | null, lastLookMs: number, nowMs: number): Due | null {
  return due && nowMs - lastLookMs > SLEPT_MS && due.atMs > lastLookMs && due.atMs <= nowMs - SLEPT_MS / 2
    ? due
    : null;
}
