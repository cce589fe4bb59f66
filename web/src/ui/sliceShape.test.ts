import { describe, expect, it } from "vitest";
import { crustForm, sliceShape, type CrustForm } from "./sliceShape";

const GROUND = 116;
const numbers = (path: string) => (path.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

describe("the form of a crust", () => {
  it("is its style's", () => {
    expect(crustForm({ family: "pan", shape: "pan" })).toBe("pan");
    expect(crustForm({ family: "thin", shape: "rolled" })).toBe("thin");
    expect(crustForm({ family: "tray", shape: "hand" })).toBe("tray");
    for (const family of ["round", "flame", "grill"])
      expect(crustForm({ family, shape: "hand" })).toBe("round");
  });

  it("stands on the ground, no lower than its own flat, at every rise", () => {
    for (const form of ["round", "thin", "tray", "pan"] as const)
      for (const rise of [0, 0.4, 1])
        for (const flat of [9, 20, 45]) {
          const shape = sliceShape(form, GROUND, flat, rise, 60);
          const ys = numbers(shape.outline).filter((_, i) => i % 2 === 1);
          expect(Math.max(...ys), form).toBe(GROUND);
          expect(shape.top, form).toBeLessThanOrEqual(GROUND - flat);
          expect(Math.min(...ys), form).toBeCloseTo(
            Math.min(shape.top, GROUND - flat - (form === "round" ? 2 : 0)),
            0,
          );
        }
  });

  it("puffs where it is round, hardly where it is thin, and not at all against a wall", () => {
    const over = (form: CrustForm) => GROUND - 20 - sliceShape(form, GROUND, 20, 1, 60).top;
    expect(over("round")).toBeGreaterThan(2 * over("tray"));
    expect(over("tray")).toBeGreaterThan(2 * over("thin"));
    expect(over("thin")).toBeLessThan(5);
    expect(over("pan")).toBe(0);
  });

  it("has a wall as high as the pan's, an edge that browns on it, and toppings up to it", () => {
    const tall = sliceShape("pan", GROUND, 30, 1, 70);
    const low = sliceShape("pan", GROUND, 30, 1, 20);
    const highest = (path: string) => Math.min(...numbers(path).filter((_, i) => i % 2 === 1));
    expect(highest(tall.support)).toBe(GROUND - 70);
    expect(highest(low.support)).toBe(GROUND - 20);
    expect(tall.edge).not.toBe("");
    expect(tall.toppedTo).toBeGreaterThan(sliceShape("round", GROUND, 30, 1, 0).toppedTo);
    expect(sliceShape("round", GROUND, 30, 1, 0).support).toBe("");
    expect(sliceShape("tray", GROUND, 30, 1, 0).support).not.toBe("");
  });
});
