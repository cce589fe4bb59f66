import { describe, expect, it } from "vitest";
import { ofItsMass, withList } from "./fromList";
import type { DoughInput } from "./types";

const dough = {
  steps: [{ hours: 3, temp_c: 21 }],
  formula: {
    lines: [{ ingredient: "bread_flour", pct: 100 }],
    preferments: [{ kind: "biga", flour_pct: 30 }],
    bowl_loss_pct: 2,
    pieces: [
      { count: 2, mass_g: 250 },
      { count: 1, area_cm2: 500, loading_g_cm2: 0.5 },
    ],
  },
} as unknown as DoughInput;
const told = {
  lines: [
    { ingredient: "plain_flour", pct: 100, locked: false },
    { ingredient: "water", pct: 66.66666, locked: false },
  ],
  preferments: [],
};

describe("a list that becomes the dough", () => {
  it("brings its lines and what it makes before, and leaves pieces and hours", () => {
    const used = withList(dough, told);
    expect(used.formula.lines.map((l) => l.pct)).toEqual([100, 66.667]);
    expect(used.formula.preferments).toEqual([]);
    expect(used.steps).toEqual(dough.steps);
    expect(used.formula.pieces).toEqual(dough.formula.pieces);
    // Its water is as warm as it says; where it does not say, as is calculated.
    expect(used.water?.given_c).toBeNull();
    expect(withList(dough, { ...told, water_c: 38 }).water?.given_c).toBe(38);
  });

  it("is as large as its list where the cook wants it so, whatever it was before", () => {
    for (const wanted of [300, 860, 2500]) {
      const sized = ofItsMass(dough, wanted);
      const all = sized.formula.pieces.reduce((sum, p) => sum + (p.count ?? 1) * (p.mass_g ?? 0), 0);
      expect(all * 1.02).toBeCloseTo(wanted, 0);
      expect(sized.formula.pieces.map((p) => p.count)).toEqual([2, 1]);
    }
  });
});
