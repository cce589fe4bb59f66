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
  hoursBetween,
  dayFrom,
  nowIn,
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
    expect(minuteOf("2026-11-28T19:30+00:00") - minuteOf("2026-11-28T19:30+05:30")).toBe(330);
  });

  it("moved there and back is where it was", () => {
    for (const [at, zone] of [
      ["2026-11-28T19:30+00:00", "UTC"],
      ["2026-12-31T23:50+05:30", "Asia/Kolkata"],
      ["2026-01-01T00:10-03:00", "America/Sao_Paulo"],
    ] as const)
      for (const by of [0, 15, -45, 1440]) {
        const there = moved(at, by, zone);
        expect(moved(`${there}${at.slice(16)}`, -by, zone)).toBe(at.slice(0, 16));
      }
  });

  it("moved over the change of clocks is as many hours of dough", () => {
    // The night of 25 October 2026 has an hour more in Berlin, that of 29 March one less.
    expect(moved("2026-10-24T22:00+02:00", 6 * 60, "Europe/Berlin")).toBe("2026-10-25T03:00");
    expect(moved("2026-03-28T22:00+01:00", 6 * 60, "Europe/Berlin")).toBe("2026-03-29T05:00");
    expect(moved("2026-10-25T03:00+01:00", -6 * 60, "Europe/Berlin")).toBe("2026-10-24T22:00");
  });

  it("writes the hours of the clocks that hang there, changed or not", () => {
    const from = minuteOf("2026-10-24T12:00+02:00");
    const hours = hoursBetween(from, minuteOf("2026-10-26T01:00+01:00"), 12, "Europe/Berlin");
    expect(hours.map((h) => h.text.slice(5))).toEqual([
      "10-24T12:00",
      "10-25T00:00",
      "10-25T12:00",
      "10-26T00:00",
    ]);
    expect(hours.slice(1).map((h, i) => h.at - (hours[i]?.at ?? 0))).toEqual([720, 780, 720]);
  });

  it("knows the days round the end of a year, and what a wall clock says now", () => {
    expect([dayFrom("2026-12-31T19:30", 1), dayFrom("2027-03-01", -1)]).toEqual(["2027-01-01", "2027-02-28"]);
    expect(nowIn("Asia/Kolkata")).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/);
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
