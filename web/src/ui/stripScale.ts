import { scaleLinear } from "@visx/scale";
import { BAND_H } from "./StripBand";
import { inLanes } from "./lanes";
import type { Flag } from "./StripFlag";

export interface Traces {
  t_s: number[];
  deck_c: number[];
  air_c: number[];
  base_c: number[];
  core_c: number[];
  base_l: number[];
  rim_l: number[];
  cheese_l: number[];
}

export interface StripData {
  traces: Traces;
  preheat: { t_s: number[]; deck_c: number[]; air_c: number[] };
  preheatMin: number;
  lookS: number;
  doneS: number;
  lateS: number;
  /** Clock time of the first launch, hh:mm. */
  launchClock: string;
  hasDeck: boolean;
}

/** With one lane of flags. */
export const H = 284;
export const FLAG_H = 26;
export const LEFT = 152;
export const RIGHT = 18;
export const PLOT = { top: 24, bottom: 128 };
export const BANDS = { top: 136, height: BAND_H, gap: 5 };
export const BANDS_END = bandY(2) + BANDS.height;
/** Between the end of the preheat's axis and the launch. */
const GAP = 12;

export function bandY(i: number): number {
  return BANDS.top + i * (BANDS.height + BANDS.gap);
}

/** Both axes of time, before and after the launch, and that of temperature. */
export function stripScale(data: StripData, width: number) {
  const { traces } = data;
  const end = Math.min(traces.t_s.at(-1) ?? 600, Math.max(data.lateS * 1.06, data.doneS * 1.45));
  const preLong = data.preheatMin > 75 ? Math.ceil((data.preheatMin + 15) / 30) * 30 : 80;
  const launchX = LEFT + (width - LEFT - RIGHT) * 0.27;
  const pre = scaleLinear<number>({ domain: [-preLong * 60, 0], range: [LEFT, launchX - GAP] });
  const x = scaleLinear<number>({ domain: [0, end], range: [launchX, width - RIGHT] });
  const hottest = Math.max(300, ...traces.deck_c, ...traces.air_c, ...data.preheat.air_c);
  const y = scaleLinear<number>({ domain: [0, hottest * 1.04], range: [PLOT.bottom, PLOT.top] });
  return {
    end,
    preLong,
    launchX,
    pre,
    x,
    y,
    right: width - RIGHT,
    clamp: (t: number) => Math.max(0, Math.min(end, t)),
    /** A line through values over times as far as `until`. */
    path: (times: readonly number[], values: readonly number[], sx: (t: number) => number, until: number) => {
      const points = times
        .map((t, i) => `${sx(t).toFixed(1)} ${y(values[i] ?? 0).toFixed(1)}`)
        .filter((_, i) => (times[i] ?? 0) <= until + 0.01);
      return points.length ? `M${points.join("L")}` : "";
    },
  };
}

export type StripScale = ReturnType<typeof stripScale>;

/** Flags in lanes, that neither a flag nor the line of one nor the pull's own covers another. */
export function inFlagLanes(flags: readonly Flag[], scale: StripScale, handleS: number) {
  const marks = flags.map((flag) => ({
    flag,
    at: flag.atS < 0 ? scale.pre(flag.atS) : scale.x(Math.min(flag.atS, scale.end)),
    wide: flag.name.length * 6.9 + 14,
  }));
  return inLanes(marks, scale.right, [scale.x(handleS)]).map(({ mark, lane, left }) => ({
    ...mark,
    lane,
    left,
  }));
}

/** How high the strip is with so many lanes of flags; the pull has one of its own under them. */
export function heightOf(lanes: number): number {
  return H + Math.max(0, lanes - 1) * FLAG_H;
}
