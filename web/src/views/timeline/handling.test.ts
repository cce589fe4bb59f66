import { describe, expect, it } from "vitest";
import { HANDLED, LEAVABLE, withAdded, withHandling, withLeftOut, type Handling } from "./handling";

const START: Handling = {
  folds: 2,
  docked: true,
  left_out: ["prep"],
  added: [{ name: "Chill", before_min: 30, minutes: 5 }],
};

describe("handling steps", () => {
  it.each(HANDLED.map((one) => one.key))("%s changes alone", (key) => {
    expect(withHandling(START, key, false)).toEqual({ ...START, [key]: false });
  });

  it.each(LEAVABLE.map((one) => one.key))("%s can be left out and taken in again, twice over", (key) => {
    const out = withLeftOut(withLeftOut(START, key, true), key, true);
    expect(out.left_out?.filter((one) => one === key)).toHaveLength(1);
    expect(withLeftOut(out, key, false).left_out).not.toContain(key);
    expect({ ...out, left_out: START.left_out }).toEqual(START);
  });

  it("an added step leaves the others as they are", () => {
    const next = withAdded(START, { name: "Light the lamp", before_min: 10, minutes: 5 });
    expect(next.added).toHaveLength(2);
    expect(next.added?.[0]).toEqual(START.added?.[0]);
    expect(START.added).toHaveLength(1);
  });
});
