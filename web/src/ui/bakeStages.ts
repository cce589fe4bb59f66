import { bakeTime } from "./time";
import type { Coming, Happened, Live } from "./bakeTypes";

/** One pizza's times, ms since the epoch; null: not yet. */
export interface Course {
  launchedMs: number | null;
  pulledMs: number | null;
}

export interface Stages extends Course {
  /** Which of the pizzas is at hand, from 1, of how many; the course's times are its own. */
  pizza: number;
  count: number;
  /** When the one before it was pulled. */
  beforeMs: number | null;
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

const MOST_PIZZAS = 24;

/** Which pizza something was told of. */
export function pizzaOf(one: Told): number {
  return typeof one.payload.pizza === "number" ? one.payload.pizza : 1;
}

/**
 * Of two launches, pulls or ends the first counts. A pizza that nobody told of pulling was out when the next went in; none went in
 * before the last was out. The server says the same; the page must know it without.
 */
export function stages(happened: readonly Told[], planned = 1): Stages {
  const counted = standing(happened);
  const first = (kind: string, pizza?: number) => {
    const one = counted.find(
      (event) => event.kind === kind && (pizza === undefined || pizzaOf(event) === pizza),
    );
    return one ? Date.parse(one.at) : null;
  };
  const more = counted.filter((one) => one.kind === "bake.more").length;
  const count = Math.min(MOST_PIZZAS, planned + more);
  let before: number | null = null;
  let at: Course = { launchedMs: null, pulledMs: null };
  let pizza = 1;
  for (; pizza <= count; pizza += 1) {
    const launched = first("bake.launched", pizza);
    if (launched === null) {
      at = { launchedMs: null, pulledMs: null };
      break;
    }
    const inMs = Math.max(launched, before ?? launched);
    const outs = [
      first("bake.pulled", pizza),
      pizza < count ? first("bake.launched", pizza + 1) : null,
    ].filter((one) => one !== null);
    at = { launchedMs: inMs, pulledMs: outs.length > 0 ? Math.max(inMs, Math.min(...outs)) : null };
    if (at.pulledMs === null || pizza === count) break;
    before = at.pulledMs;
  }
  return { ...at, pizza, count, beforeMs: before, endedMs: first("bake.ended") };
}

/** What of the plan is left: the first of a kind that was done or left out stands for the first that was planned. */
export function stillComing(planned: readonly Coming[], happened: readonly Told[], pizza: number): Coming[] {
  const gone = standing(happened)
    .filter((one) => (one.kind === "bake.done" || one.kind === "bake.skipped") && pizzaOf(one) === pizza)
    .map((one) => one.payload.do);
  return [...planned]
    .sort((a, b) => a.at_s - b.at_s)
    .filter((one) => {
      const at = gone.indexOf(one.do);
      if (at < 0) return true;
      gone.splice(at, 1);
      return false;
    });
}

/** What the last answer says of the pizza at hand: of itself, or before its launch, or of the one before it; null: nothing yet. */
export function answerFor(live: Live | undefined, stage: Stages): Live | null {
  if (!live) return null;
  if (live.pizza === stage.pizza) return live;
  if (live.pizza > stage.pizza || !live.next) return null;
  return {
    ...live,
    launched: false,
    launch: null,
    pull: live.next.pull,
    coming: live.planned,
    says: [],
    course: null,
    actions: [],
    asks: [],
  };
}

/** What was told last, to be taken back. */
export function last(happened: readonly Told[]): Told | null {
  const undoable = standing(happened).filter((one) => one.kind !== "bake.ended");
  return undoable.at(-1) ?? null;
}

type Part = "base" | "rim" | "cheese";

/** The latest swatch of a part within the last minute: what the cook has just matched. */
export function matched(happened: readonly Told[], part: Part, nowMs: number, pizza: number): number | null {
  const looks = standing(happened).filter(
    (one) => one.kind === "bake.seen" && typeof one.payload[part] === "number" && pizzaOf(one) === pizza,
  );
  const one = looks.at(-1);
  return one && nowMs - Date.parse(one.at) < 60_000 ? Number(one.payload[part]) : null;
}

/** A step of many alike is let go so long after its second, s. */
const LET_GO_S = 6;

export interface Next {
  text: string;
  /** Its moment, s after launch; negative seconds left mean that it is due since. */
  leftS: number;
  coming: Coming | null;
}

/** The one thing to do next while it bakes: what is planned, then looking, then pulling. */
export function nextOf(live: Pick<Live, "coming" | "pull">, nowS: number): Next {
  const pull = live.pull;
  const planned = [...live.coming]
    .sort((a, b) => a.at_s - b.at_s)
    // A turn of many is called at its second; a little later the next one is what counts.
    .find((one) => !one.repeats || (one.at_s > nowS - LET_GO_S && (!pull || one.at_s < pull.likely)));
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
  "bake.more": "one more",
};

/** What is taken back, in a word or two. */
export function said(one: Told): string {
  const what = one.payload.do ?? one.payload.kind;
  return typeof what === "string" ? what.replaceAll("_", " ") : (SAID[one.kind] ?? one.kind);
}
