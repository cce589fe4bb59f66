import { scaleLinear } from "@visx/scale";
import { day, hoursBetween, minuteOf } from "../../ui/time";
import { LANES, type PlacedStep, type Result } from "./types";

export const LEFT = 58;
export const RIGHT = 16;
export const TOP = 22;
export const BAR = 26;
/** Rows of names under the marks of the days' ribbon, at least. */
export const LABEL_ROWS = 3;
export const ROW = 19;

/** What a ribbon shows: all days in short, or the hours around the table in full. */
export type Zoom = "days" | "evening";

/** Between what minutes the ribbons run. */
export function spanOf(result: Result, zoom: Zoom): [number, number] {
  const serve = minuteOf(result.serve_at);
  const ends = Math.max(...result.steps.map((s) => minuteOf(s.ends)), serve + 20);
  const first = Math.min(...result.steps.map((s) => minuteOf(s.at)));
  if (zoom === "days") return [first - 30, ends + 20];
  const near = result.steps.filter((s) => minuteOf(s.at) > serve - 300).map((s) => minuteOf(s.at));
  return [Math.min(serve - 75, ...near) - 14, ends + 8];
}

/** Everything of a ribbon that is worked out from its span and width. */
export interface Scale {
  zone: string;
  evening: boolean;
  from: number;
  to: number;
  width: number;
  floor: number;
  height: number;
  lanes: readonly string[];
  /** Minutes since the epoch to px, and minutes a px. */
  x: (minute: number) => number;
  perPx: number;
  laneY: (lane: string) => number;
  inside: (from: number, to: number) => boolean;
}

export function scaleOf(
  [from, to]: [number, number],
  width: number,
  zoom: Zoom,
  zone: string,
  rows = LABEL_ROWS,
): Scale {
  const evening = zoom === "evening";
  const lanes: readonly string[] = evening ? LANES : ["dough", "hands"];
  const laneH = evening ? 38 : 34;
  const names = evening ? 0 : Math.max(LABEL_ROWS, rows) * ROW + 8 - laneH;
  const floor = TOP + lanes.length * laneH + names;
  return {
    zone,
    evening,
    from,
    to,
    width,
    floor,
    height: floor + 22,
    lanes,
    x: scaleLinear<number>({ domain: [from, to], range: [LEFT, width - RIGHT] }),
    perPx: (to - from) / (width - RIGHT - LEFT),
    laneY: (lane) => TOP + Math.max(0, lanes.indexOf(lane)) * laneH,
    inside: (a, b) => b > from && a < to,
  };
}

/** The steps this ribbon has room for. */
export function stepsIn(result: Result, scale: Scale): PlacedStep[] {
  const shown = scale.evening ? LANES : (["dough", "hands"] as const);
  return result.steps.filter(
    (s) => scale.inside(minuteOf(s.at), minuteOf(s.ends)) && (shown as readonly string[]).includes(s.lane),
  );
}

export function launchOf(result: Result): number {
  return minuteOf(result.steps.find((s) => s.key === "launch_1")?.at ?? result.serve_at);
}

/** The hours written under a ribbon, by the clocks of its zone. */
export function ticksOf({ from, to, zone, evening }: Scale): { at: number; text: string; strong: boolean }[] {
  const hours = (to - from) / 60;
  const days = hours > 60 ? 12 : hours > 30 ? 6 : hours > 14 ? 3 : 1;
  const every = evening ? (hours > 9 ? 2 : 1) : days;
  return hoursBetween(from, to, every, zone).map(({ at, text }) => {
    const time = text.slice(11, 16);
    const strong = !evening && (time === "00:00" || (every === 12 && time === "12:00"));
    return { at, text: strong ? `${day(text)} ${time}` : time, strong };
  });
}
