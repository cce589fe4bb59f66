import { describe, expect, it } from "vitest";
import type { StyleBody } from "../../ui/styles";
import { asKept, GROUPS, loadingOf, wantedCrust } from "./figures";

const style: StyleBody = {
  key: "new_york",
  name: "lantern round",
  about: "",
  family: "round",
  bake_s: [420, 600],
  deck_c: [260, 300],
  shape: "hand",
  diameter_cm: 40,
  mass_g: 420,
  hydration_pct: 63,
  oil_pct: 2,
  sugar_pct: 1,
  topping_g_cm2: 0.25,
  topping_water_pct: 60,
  loss_pct: 12,
  core_c: 93,
  band: { loading_g_cm2: [0.3, 0.36], hydration_pct: [60, 66], oil_pct: [1, 3], sugar_pct: [0, 2] },
  target: { base: 57, rim: 60, cheese: 72 },
  weight: { base: 1, rim: 1, cheese: 0.3 },
  suits: null,
};

describe("a style of one's own", () => {
  it("has figures that are read as they were set, each of them alone", () => {
    for (const figure of GROUPS.flatMap((group) => group.figures)) {
      const middle = figure.bounds[0] + 0.37 * (figure.bounds[1] - figure.bounds[0]);
      const set = figure.set(style, middle);
      expect(figure.get(set), figure.name).toBeCloseTo(middle, 9);
      for (const other of GROUPS.flatMap((group) => group.figures))
        if (other !== figure) expect(other.get(set), `${figure.name}, ${other.name}`).toBe(other.get(style));
      expect(figure.get(style), "what it was set on stays").toBe(figure.get({ ...style }));
    }
  });

  it("counts its own figures as usual, so that its own dough is never warned of", () => {
    const wet = asKept({ ...style, hydration_pct: 75, oil_pct: 0, mass_g: 500 });
    expect(wet.band.hydration_pct).toEqual([60, 75]);
    expect(wet.band.oil_pct).toEqual([0, 3]);
    expect(wet.band.sugar_pct).toEqual(style.band.sugar_pct);
    expect(wet.band.loading_g_cm2[1]).toBeCloseTo(loadingOf(wet), 9);
    // What no base can hold is for the server to refuse, by its own words.
    expect(asKept({ ...style, mass_g: 3900 }).band.loading_g_cm2).toEqual(style.band.loading_g_cm2);
    expect(asKept(wet)).toEqual(wet);
  });

  it("is drawn as it wants to come out, shaped as its family is", () => {
    expect(wantedCrust(style)).toMatchObject({
      baseL: 57,
      rimL: 60,
      form: "round",
      square: false,
      wallMm: 0,
    });
    const pan = wantedCrust({ ...style, family: "pan", shape: "pan" });
    expect(pan).toMatchObject({ form: "pan", square: true, edgeL: 57 });
    expect(pan.wallMm).toBeGreaterThan(0);
  });
});
