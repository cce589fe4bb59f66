import { scaleLinear } from "@visx/scale";
import type { StripData } from "./stripTypes";

export const LEFT = 152;
export const RIGHT = 18;
export const PLOT = { top: 22, bottom: 114 };
/** As the longest label under the curves, px. */
const WORDS_WIDE = 108;
/** A moment of the crust that comes after so many times the pull's minutes is not drawn. */
const MOST_PULLS = 1.6;
/** Between the end of the preheat's axis and the launch. */
const GAP = 12;

/** Both axes of time, before and after the launch, and that of temperature. */
export function stripScale(data: StripData, width: number) {
  const { traces } = data;
  const preLong = data.preheatMin > 75 ? Math.ceil((data.preheatMin + 15) / 30) * 30 : 80;
  const launchX = LEFT + (width - LEFT - RIGHT) * 0.27;
  // What is told after the pull has room for its words.
  const share = 1 - WORDS_WIDE / (width - RIGHT - launchX);
  const moments = data.moments.filter((moment) => moment.at_s < MOST_PULLS * data.doneS);
  const told = [data.lateS, ...moments.map((moment) => moment.at_s)];
  const end = Math.min(traces.t_s.at(-1) ?? 600, Math.max(data.doneS * 1.5, ...told.map((at) => at / share)));
  const pre = scaleLinear<number>({ domain: [-preLong * 60, 0], range: [LEFT, launchX - GAP] });
  const x = scaleLinear<number>({ domain: [0, end], range: [launchX, width - RIGHT] });
  const hottest = Math.max(300, ...traces.deck_c, ...traces.air_c, ...data.preheat.air_c);
  const y = scaleLinear<number>({ domain: [0, hottest * 1.04], range: [PLOT.bottom, PLOT.top] });
  return {
    end,
    /** Those that are drawn. */
    moments: moments.filter((moment) => moment.at_s <= end),
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
