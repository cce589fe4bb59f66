import { describe, expect, it } from "vitest";
import { isNumber, numberIn } from "./numbers";

describe("a number as a cook types it", () => {
  it.each([
    ["250", 250],
    [" 2,5 ", 2.5],
    ["2.5", 2.5],
    [",5", 0.5],
    ["7.", 7],
    ["−14", -14],
    ["-14,5", -14.5],
    ["+3", 3],
  ])("%s is %f", (text, number) => {
    expect(numberIn(text)).toBe(number);
  });

  it.each(["abc", "1,2,3", "1.000,5", "12 g", "1e400", "Infinity", "0x10", "-", "½", "2..5"])(
    "%s is none, and not guessed at",
    (text) => {
      expect(numberIn(text)).toBeNaN();
      expect(isNumber(text)).toBe(false);
    },
  );

  it("left empty is nothing, not nought", () => {
    expect([numberIn(""), numberIn("  ")]).toEqual([null, null]);
    expect(isNumber("")).toBe(false);
  });

  it("is held to its bounds, ends included", () => {
    expect(["1", "24", "0", "25"].map((t) => isNumber(t, [1, 24]))).toEqual([true, true, false, false]);
  });
});
