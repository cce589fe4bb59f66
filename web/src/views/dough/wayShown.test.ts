import { describe, expect, it } from "vitest";
import type { DoughInput, RiseStep } from "./types";
import { stepsOf, withSteps } from "./wayShown";

const step = (stage: "bulk" | "balls", hours: number, place = "room"): RiseStep => ({
  stage,
  hours,
  place,
  temp_c: 21,
});
const dough = {
  steps: [step("bulk", 2), step("balls", 20, "fridge"), step("balls", 2)],
  formula: {
    pieces: [
      { count: 2, mass_g: 250 },
      { count: 2, mass_g: 250, way: [step("balls", 44, "fridge"), step("balls", 2)] },
    ],
  },
} as unknown as DoughInput;

describe("pieces that go their own way", () => {
  it("share the bulk and nothing else", () => {
    expect(stepsOf(dough, null).map((s) => s.hours)).toEqual([2, 20, 2]);
    expect(stepsOf(dough, 1).map((s) => s.hours)).toEqual([2, 44, 2]);
    expect(stepsOf(dough, 0).map((s) => s.hours)).toEqual([2, 20, 2]);
  });

  it("give back what was shown of them unchanged", () => {
    for (const piece of [null, 1]) expect(withSteps(dough, piece, stepsOf(dough, piece))).toEqual(dough);
  });

  it("move the bulk of all, and only their own hours after it", () => {
    const moved = withSteps(dough, 1, [step("bulk", 3), step("balls", 30, "fridge"), step("balls", 2)]);
    expect(moved.steps.map((s) => s.hours)).toEqual([3, 20, 2]);
    expect(moved.formula.pieces[1]?.way?.map((s) => s.hours)).toEqual([30, 2]);
    expect(moved.formula.pieces[0]?.way).toBeUndefined();
  });

  it("go with the rest when nothing of their own is left", () => {
    expect(withSteps(dough, 1, [step("bulk", 2)]).formula.pieces[1]?.way).toEqual([]);
  });
});
