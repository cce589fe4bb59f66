import { describe, expect, it } from "vitest";
import { LEFT, MOST_RATIO, riseScale, stageName, timeTicks } from "./riseScale";
import type { Batch, RiseStep } from "./types";

const rise = (ratio: number[]) =>
  ({ t_h: ratio.map((_, i) => i), ratio_fast: ratio, ratio_slow: ratio, ratio }) as unknown as Batch["rise"];
const steps = [{ hours: 4, temp_c: 21, stage: "bulk" }] as RiseStep[];

describe("the axes of a rise", () => {
  it("hold all its hours and never run beyond what is drawn", () => {
    for (const ratio of [
      [1, 1.2, 1.5, 2, 2.4, 3],
      [1, 2, 9, 20, 30, 40],
      [1, 1, 1],
    ]) {
      const scale = riseScale(rise(ratio), steps, 700);
      expect(scale.total).toBe(4);
      expect(scale.end).toBeGreaterThanOrEqual(4);
      expect(scale.highest).toBeLessThanOrEqual(MOST_RATIO);
      expect(scale.x(0)).toBe(LEFT);
      expect(scale.y(1)).toBeGreaterThan(scale.y(scale.highest));
    }
  });
});

describe("hours under a rise", () => {
  it("count from the mixing where it has no time", () => {
    expect(timeTicks(5, 2, null)).toEqual([
      { at: 0, text: "mixed" },
      { at: 2, text: "2 h" },
      { at: 4, text: "4 h" },
    ]);
  });

  it("are whole hours of the clock where it has", () => {
    const ticks = timeTicks(5, 1, new Date(2026, 10, 28, 17, 40));
    expect(ticks.map((t) => t.text)).toEqual(["18:00", "19:00", "20:00", "21:00", "22:00"]);
    expect(ticks[0]?.at).toBeCloseTo(1 / 3, 9);
  });

  it("are never so many that they cannot be read", () => {
    expect(timeTicks(240, 0.5, new Date(2026, 0, 1)).length).toBeLessThanOrEqual(40);
  });

  it("a stage nobody knows keeps its own name", () => {
    expect([stageName("balls"), stageName("other")]).toEqual(["The balls", "other"]);
  });
});
