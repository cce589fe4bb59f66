import { describe, expect, it } from "vitest";
import { withBeside } from "./beside";
import { withList } from "./fromList";
import type { DoughInput } from "./types";

const dough = {
  formula: { lines: [], pieces: [] },
  steps: [],
  outside: [
    { use: "tub", ingredient: "olive_oil", grams: 5 },
    { use: "pan", ingredient: "butter", grams: 20 },
  ],
} as unknown as DoughInput;

describe("what is used beside the dough", () => {
  it("an amount changes the one it names and no other", () => {
    const after = withBeside(dough, { use: "tub", ingredient: "olive_oil" }, 7.26);
    expect(after.outside).toContainEqual({ use: "tub", ingredient: "olive_oil", grams: 7.3 });
    expect(after.outside).toContainEqual({ use: "pan", ingredient: "butter", grams: 20 });
    expect(after.outside).toHaveLength(2);
    expect(dough.outside?.[0]?.grams).toBe(5);
  });

  it("a recipe brings its own, and keeps what it does not speak of", () => {
    const told = { lines: [], outside: [{ use: "pan" as const, ingredient: "olive_oil", grams: 30 }] };
    expect(withList(dough, told).outside).toEqual([
      { use: "tub", ingredient: "olive_oil", grams: 5 },
      { use: "pan", ingredient: "olive_oil", grams: 30 },
    ]);
    expect(withList(dough, { lines: [] }).outside).toEqual(dough.outside);
  });
});
