import { describe, expect, it } from "vitest";
import { drawnMm, ovenGeometry, type OvenState } from "./ovenGeometry";
import { LEFT, stripScale } from "./stripScale";
import type { StripData } from "./stripTypes";

const oven = (more: Partial<OvenState>) =>
  ({ kind: "electric_oven", heightsCm: [6, 11, 16, 21, 26], cavityCm: 34, level: 3, ...more }) as OvenState;

describe("an oven drawn to scale", () => {
  it("has its levels where they are, and the nearest is found", () => {
    const at = ovenGeometry(oven({}));
    const heights = [1, 2, 3, 4, 5].map(at.levelY);
    expect(heights).toEqual([...heights].sort((a, b) => b - a));
    for (const level of [1, 2, 3, 4, 5]) expect(at.nearest(at.levelY(level) + 3)).toBe(level);
    expect(at.nearest(-1000)).toBe(5);
  });

  it("keeps fan and figures out of the way of what stands high", () => {
    const low = ovenGeometry(oven({ level: 1 }));
    const high = ovenGeometry(oven({ level: 5 }));
    expect(high.quietY).toBeGreaterThan(low.quietY);
  });

  it("is smaller where the oven is, and nothing is too thin to be seen", () => {
    expect(ovenGeometry(oven({ kind: "countertop_oven" })).CAVITY.w).toBeLessThan(
      ovenGeometry(oven({})).CAVITY.w,
    );
    expect(drawnMm(0.8)).toBe(2.5);
    expect(drawnMm(20)).toBeGreaterThan(drawnMm(10));
  });
});

describe("the strip", () => {
  const data = (more: Partial<StripData> = {}): StripData => ({
    traces: {
      t_s: [0, 300, 600, 900],
      deck_c: [260, 250, 245, 245],
      air_c: [260, 255, 260, 260],
      base_c: [20, 120, 150, 160],
      core_c: [20, 80, 95, 98],
      base_l: [84, 75, 65, 55],
      rim_l: [84, 78, 70, 60],
      cheese_l: [84, 80, 76, 70],
    },
    moments: [],
    preheat: { t_s: [0, 1800], deck_c: [20, 260], air_c: [20, 260] },
    preheatMin: 45,
    lookS: 380,
    doneS: 450,
    lateS: 560,
    launchClock: "19:30",
    hasDeck: true,
    ...more,
  });

  it("has the launch between its two times, and ends after what must be seen", () => {
    const scale = stripScale(data(), 1100);
    expect(scale.pre(0)).toBeLessThan(scale.launchX);
    expect(scale.pre(-45 * 60)).toBeGreaterThan(LEFT);
    expect(scale.end).toBeGreaterThan(560);
    expect(scale.clamp(1e6)).toBe(scale.end);
    expect(scale.clamp(-5)).toBe(0);
  });

  it("holds a preheat of any length", () => {
    for (const preheatMin of [5, 75, 76, 150]) {
      const scale = stripScale(data({ preheatMin }), 1100);
      expect(scale.pre(-preheatMin * 60)).toBeGreaterThanOrEqual(LEFT);
    }
  });

  it("draws a line as far as it is asked to, and none of nothing", () => {
    const scale = stripScale(data(), 1100);
    expect(scale.path([0, 300, 600], [1, 2, 3], scale.x, 300).split("L")).toHaveLength(2);
    expect(scale.path([], [], scale.x, 300)).toBe("");
  });
});
