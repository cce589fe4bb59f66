import { expect, it } from "vitest";
import { eatenMm, shownEaten } from "./eaten";

it("is kept in mm whatever it is typed in, and goes round", () => {
  for (const mm of [1, 8, 12.5, 25.4, 80]) {
    expect(eatenMm(shownEaten(mm, false), false)).toBe(mm);
    expect(eatenMm(shownEaten(mm, true), true)).toBeCloseTo(mm, 0);
  }
  expect(eatenMm("0,5", true)).toBe(12.7);
  expect(eatenMm("", false)).toBeNull();
});

it("is no thickness where it is none", () => {
  for (const text of ["0", "-3", "81", "thick", "1e9", "8 mm"]) expect(eatenMm(text, false)).toBeNaN();
  expect(eatenMm("4", true)).toBeNaN();
});
