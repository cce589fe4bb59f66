import { describe, expect, it } from "vitest";
import {
  axisTime,
  bakeTime,
  clock,
  clockAfter,
  day,
  dayAndClock,
  minuteOf,
  moved,
  offsetMin,
  spell,
} from "./time";
import { valueAt } from "./interpolate";

describe("times as a cook reads them", () => {
  it.each([
    [0, "0:00"],
    [59.6, "1:00"],
    [429, "7:09"],
    [599.4, "9:59"],
    [599.6, "10 min"],
    [1530, "26 min"],
    [-75, "−1:15"],
    [-0.2, "0:00"],
  ])("%f s is %s", (seconds, said) => {
    expect(bakeTime(seconds)).toBe(said);
  });

  it.each([
    [45, "45 min"],
    [60, "1 h"],
    [90, "1 h 30"],
    [125, "2 h 05"],
    [2760, "46 h"],
  ])("%i min is %s", (minutes, said) => {
    expect(spell(minutes)).toBe(said);
  });

  it("goes round midnight both ways", () => {
    expect(clockAfter("23:50", 1200)).toBe("00:10");
    expect(clockAfter("00:05", -600)).toBe("23:55");
    expect(clockAfter("19:30", -30 * 3600)).toBe("13:30");
    expect(axisTime(754)).toBe("12:34");
  });

  it("reads a supper's own clock, not the browser's", () => {
    const at = "2026-11-28T19:30-08:00";
    expect([clock(at), day(at), dayAndClock(at)]).toEqual(["19:30", "Sat", "Sat 19:30"]);
    expect(offsetMin(at)).toBe(-480);
    expect(offsetMin("2026-11-28T19:30")).toBe(0);
    expect(minuteOf("2026-11-28T19:30+00:00") - minuteOf("2026-11-28T19:30+05:30")).toBe(330);
  });

  it("moved there and back is where it was", () => {
    for (const at of ["2026-11-28T19:30+00:00", "2026-12-31T23:50+05:30", "2026-01-01T00:10-03:00"])
      for (const by of [0, 15, -45, 1440]) {
        const there = moved(at, by);
        expect(moved(`${there}${at.slice(16)}`, -by)).toBe(at.slice(0, 16));
      }
  });
});

describe("a trace between its samples", () => {
  const t = [0, 10, 30];
  const v = [1, 2, 6];

  it("is linear, and held at its ends", () => {
    expect([0, 5, 10, 20, 30].map((at) => valueAt(t, v, at))).toEqual([1, 1.5, 2, 4, 6]);
    expect([-5, 99].map((at) => valueAt(t, v, at))).toEqual([1, 6]);
  });

  it("of nothing is no number, of one sample is that one", () => {
    expect(valueAt([], [], 3)).toBeNaN();
    expect(valueAt([4], [9], 100)).toBe(9);
  });

  it("never leaves the range of its neighbours", () => {
    for (let i = 0; i <= 300; i++) {
      const at = i / 10;
      const value = valueAt(t, v, at);
      expect(value).toBeGreaterThanOrEqual(at < 10 ? 1 : 2);
      expect(value).toBeLessThanOrEqual(at <= 10 ? 2 : 6);
    }
  });
});
