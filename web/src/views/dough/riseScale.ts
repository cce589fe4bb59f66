import { scaleLinear } from "@visx/scale";
import { hoursSaid } from "../../ui/time";
import { clockAt, type Batch, type RiseStep } from "./types";

export const H = 268;
export const LEFT = 44;
export const RIGHT = 14;
export const PLOT = { top: 12, bottom: 238 };
/** A rise beyond this is drawn no higher. */
export const MOST_RATIO = 4;

/** The curve's two axes: hours since mixing, and volume against its start. */
export function riseScale(rise: Batch["rise"], steps: readonly RiseStep[], width: number) {
  const total = steps.reduce((sum, s) => sum + s.hours, 0);
  const end = Math.max(total, Math.min(rise.t_h.at(-1) ?? total, total * 1.06 + 0.3));
  const top = Math.max(2.6, ...rise.ratio_fast.filter((_, i) => (rise.t_h[i] ?? 0) <= end)) + 0.15;
  return {
    total,
    end,
    width,
    highest: Math.min(MOST_RATIO, top),
    x: scaleLinear<number>({ domain: [0, end], range: [LEFT, width - RIGHT] }),
    y: scaleLinear<number>({ domain: [1, Math.min(MOST_RATIO, top)], range: [PLOT.bottom, PLOT.top] }),
  };
}

export type RiseScale = ReturnType<typeof riseScale>;

/** Marks of the time axis: round hours of the clock where mixing has a time, hours after it where not. */
export function timeTicks(end: number, every: number, mixedAt: Date | null): { at: number; text: string }[] {
  const out: { at: number; text: string }[] = [];
  if (!mixedAt) {
    for (let t = 0; t <= end + 1e-9; t += every) out.push({ at: t, text: t ? hoursSaid(t) : "mixed" });
    return out;
  }
  const first = new Date(mixedAt);
  first.setMinutes(0, 0, 0);
  for (let i = 1; out.length < 40; i += 1) {
    const mark = new Date(first.getTime() + i * 3_600_000);
    const at = (mark.getTime() - mixedAt.getTime()) / 3_600_000;
    if (at > end) break;
    if (every >= 1 && mark.getHours() % Math.round(every) === 0)
      out.push({ at, text: clockAt(mark, every >= 6) });
    else if (every < 1) out.push({ at, text: clockAt(mark, false) });
  }
  return out;
}

/** What stands in a stage. */
export function stageName(stage: string): string {
  return { bulk: "The dough", balls: "The balls", pan: "In the pan" }[stage] ?? stage;
}
