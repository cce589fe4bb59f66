import { describe, expect, it } from "vitest";
import {
  against,
  byPlace,
  gist,
  lightness,
  monthsAgo,
  nearest,
  seasonOf,
  type BakeTold,
  type Fault,
  type Line,
} from "./book";
import { dateOf } from "../../ui/time";

const WORDS = [
  { word: "pale", above_l: 76 },
  { word: "golden", above_l: 61 },
  { word: "charred", above_l: 0 },
];
const FAULTS: Fault[] = [
  { key: "dense", name: "dense", on: "crumb", blame: ["the yeast was dead"] },
  { key: "stuck", name: "stuck to the peel", on: "base", blame: ["a wet dough"] },
  { key: "sour", name: "collapsed or sour", on: "crumb", blame: [] },
];
const line = (came: Partial<Line["came"]>, pulled_s = 400): Line =>
  ({
    came: { faults: [], note: "", ...came },
    pulled_s,
    foretold: { low_s: 350, likely_s: 400, high_s: 480 },
  }) as unknown as Line;

describe("the book", () => {
  it("takes a word by its middle and a swatch as it is", () => {
    expect(lightness("golden", WORDS)).toBe(68.5);
    expect(lightness("pale", WORDS)).toBe(80);
    expect(lightness("charred", WORDS)).toBe(44.5);
    expect(lightness(52, WORDS)).toBe(52);
    expect(lightness(null, WORDS)).toBeNull();
    expect(lightness("purple", WORDS)).toBeNull();
  });

  it("shows the nearest swatch", () => {
    expect(nearest(59, [82, 64, 58, 38])).toBe(58);
    expect(nearest(null, [82])).toBeNull();
  });

  it("tells what went wrong before what was written, and that before the minutes", () => {
    expect(gist(line({ faults: ["stuck", "dense"], note: "hm" }), FAULTS)).toBe("stuck to the peel, dense");
    expect(gist(line({ note: "a windy night\nmore" }), FAULTS)).toBe("a windy night");
    expect(gist(line({}), FAULTS)).toBe("pulled when foretold");
    expect(gist(line({}, 300), FAULTS)).toContain("sooner");
    expect(gist(line({}, 600), FAULTS)).toContain("later");
  });

  it("tells the year of a bake that is not of this one", () => {
    const now = new Date("2026-11-26T12:00:00");
    expect(dateOf("2026-11-14T19:00:00", now)).toBe("14 Nov");
    expect(dateOf("2025-11-14T19:00:00", now)).toBe("14 Nov 2025");
  });

  it("goes back whole months", () => {
    expect(monthsAgo(3, new Date("2026-11-26T12:00:00Z"))).toMatch(/^2026-08-26T/);
    expect(monthsAgo(12, new Date("2026-01-05T12:00:00Z"))).toMatch(/^2025-01-05T/);
  });

  it("lays a season out by its days, with its months", () => {
    const at = (baked_at: string) => ({ baked_at }) as Line;
    const { placed, months } = seasonOf([
      at("2026-11-20T19:00:00"),
      at("2026-10-16T19:00:00"),
      at("2026-09-20T19:00:00"),
      at("2025-01-01T19:00:00"),
    ]);
    expect(placed.map((one) => one.share)).toEqual([1, expect.closeTo(26 / 61, 2), 0]);
    expect(months.map((one) => one.name)).toEqual(["Oct", "Nov"]);
    expect(seasonOf([]).placed).toEqual([]);
  });

  it("groups faults by what they show on", () => {
    expect(byPlace(FAULTS).map(([place, rows]) => [place, rows.length])).toEqual([
      ["crumb", 2],
      ["base", 1],
    ]);
  });

  it("puts a bake against its promise in shares, so that short and long ones stand on one axis", () => {
    const told = { foretold_low_s: 200, foretold_s: 400, foretold_high_s: 800, came_s: 400 } as BakeTold;
    expect(against(told)).toEqual({ low: -Math.LN2, high: Math.LN2, came: 0 });
    expect(against({ ...told, came_s: null }).came).toBeNull();
  });
});
