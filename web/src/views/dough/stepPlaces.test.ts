import { describe, expect, it } from "vitest";
import { borderMoved, LEAST_H, LONGEST_H, snapped, stepChanged } from "./stepPlaces";
import type { RiseStep } from "./types";

const step = (hours: number, stage: RiseStep["stage"] = "bulk"): RiseStep =>
  ({ hours, temp_c: 21, stage, place: "room" }) as RiseStep;
const hours = (steps: readonly RiseStep[]) => steps.map((s) => s.hours);
const sum = (steps: readonly RiseStep[]) => steps.reduce((all, s) => all + s.hours, 0);

describe("a border between two places of the dough", () => {
  const steps = [step(2), step(10, "balls"), step(2, "balls")];

  it("moves what is between, never when the dough is eaten", () => {
    for (const by of [-9, -1, 0.3, 4, 20]) {
      const next = borderMoved(steps, 0, by);
      expect(sum(next)).toBeCloseTo(sum(steps), 9);
      expect(Math.min(...hours(next))).toBeGreaterThanOrEqual(LEAST_H);
      expect(next[2]).toEqual(steps[2]);
    }
    expect(hours(borderMoved(steps, 0, 1))).toEqual([3, 9, 2]);
  });

  it("at the end makes the whole rise longer or shorter, within bounds", () => {
    expect(hours(borderMoved(steps, 2, 1.5))).toEqual([2, 10, 3.5]);
    expect(hours(borderMoved(steps, 2, -50))).toEqual([2, 10, LEAST_H]);
    expect(hours(borderMoved([step(100)], 0, 500))).toEqual([LONGEST_H]);
  });

  it("lies on quarters of an hour, on halves over days", () => {
    expect([snapped(2.1, 12), snapped(2.13, 12), snapped(2.2, 60)]).toEqual([2, 2.25, 2]);
  });

  it("that is not there changes nothing", () => {
    expect(borderMoved(steps, 7, 1)).toEqual(steps);
  });
});

describe("how the dough stands", () => {
  it("is never less divided afterwards than before", () => {
    const steps = [step(1), step(2), step(3)];
    const stages = (of: readonly RiseStep[]) => of.map((s) => s.stage);
    expect(stages(stepChanged(steps, 1, { stage: "balls" }))).toEqual(["bulk", "balls", "balls"]);
    const balls = steps.map((s) => ({ ...s, stage: "balls" as const }));
    expect(stages(stepChanged(balls, 1, { stage: "bulk" }))).toEqual(["bulk", "bulk", "balls"]);
    expect(stages(stepChanged(balls, 2, { hours: 9 }))).toEqual(["balls", "balls", "balls"]);
  });
});
