import { describe, expect, it } from "vitest";
import { flagsOf } from "./flags";
import { firstDraft, newDraft, styleOf, type Controls, type Kitchen, type Rigs } from "./types";

const kitchen = (hearths: [number, string][], pans: [number, string][] = []) =>
  ({
    hearths: hearths.map(([id, kind]) => ({ id, kind })),
    pans: pans.map(([id, kind]) => ({ id, kind })),
    surfaces: [],
  }) as unknown as Kitchen;
const rigs = (...rows: [number, number | null, number | null][]) =>
  ({
    rigs: rows.map(([hearth_id, surface_id, pan_id]) => ({
      key: "k",
      hearth_id,
      surface_id,
      pan_id,
      hearth: "",
      support: "",
    })),
    not_standing: [],
    missing: "",
  }) as Rigs;

describe("the first plan of a kitchen", () => {
  it("is an oven's deck before its pan", () => {
    const draft = firstDraft(
      kitchen([[1, "electric_oven"]], [[5, "thin_tray"]]),
      rigs([1, null, 5], [1, 3, null]),
    );
    expect(draft?.sentence).toMatchObject({
      style: "home_oven_round",
      hearth_id: 1,
      surface_id: 3,
      pan_id: null,
    });
  });

  it.each([
    ["flame_oven", "neapolitan"],
    ["gas_grill", "grilled"],
    ["charcoal_grill", "grilled"],
  ])("of one who owns only a %s is %s on its own floor or grate", (kind, style) => {
    const draft = firstDraft(kitchen([[2, kind]]), rigs([2, null, null]));
    expect(draft?.sentence).toMatchObject({ style, hearth_id: 2, surface_id: null, pan_id: null });
  });

  it("prefers the oven where there is a fire, too", () => {
    const both = kitchen(
      [
        [2, "flame_oven"],
        [1, "gas_oven"],
      ],
      [[5, "cast_iron"]],
    );
    expect(firstDraft(both, rigs([2, null, null], [1, null, 5]))?.sentence).toMatchObject({
      hearth_id: 1,
      style: "cast_iron_pan",
    });
  });

  it("of a kitchen in which nothing bakes is none", () => {
    expect(firstDraft(kitchen([[3, "hob"]]), rigs())).toBeNull();
  });
});

describe("a sentence's style", () => {
  const styles = [
    { key: "new_york", ownId: null },
    { key: "own-4", ownId: 4 },
  ] as never[];

  it("is the cook's own before the known one", () => {
    const { sentence } = newDraft("new_york", { hearth_id: 1, surface_id: 1, pan_id: null });
    expect(styleOf(sentence, styles)).toMatchObject({ key: "new_york" });
    expect(styleOf({ ...sentence, own_style_id: 4 }, styles)).toMatchObject({ key: "own-4" });
    expect(styleOf({ ...sentence, own_style_id: 9 }, styles)).toBeUndefined();
    expect(styleOf(undefined, styles)).toBeUndefined();
  });
});

describe("flags on the strip", () => {
  const all = {
    setpoint_c: 250,
    level: 3,
    preheat_min: 45,
    top_element: { on_s: 0, off_s: 90 },
    shield: { on_s: 200, off_s: 500 },
    turn_s: 240,
    par_bake_s: 120,
    cheese_s: 150,
    flip_s: 60,
    move: { at_s: 300, level: 2 },
    hob_s: 180,
  } as unknown as Controls;

  it("stand for everything that is done, none for what is not", () => {
    expect(flagsOf({ setpoint_c: 250, level: 3, preheat_min: 45 } as Controls, 600, () => undefined)).toEqual(
      [],
    );
    expect(
      flagsOf(all, 600, () => undefined)
        .map((f) => f.key)
        .sort(),
    ).toEqual(["cheese", "flip", "hob", "move", "shield-on", "top-off", "top-on", "topping", "turn"]);
  });

  it("moved, they change their own control and keep the rest of it", () => {
    const changes: Partial<Controls>[] = [];
    for (const flag of flagsOf(all, 600, (next) => changes.push(next)))
      flag.onMove(flag.key === "hob" ? -200 : 77);
    expect(changes).toContainEqual({ top_element: { on_s: 77, off_s: 90 } });
    expect(changes).toContainEqual({ top_element: { on_s: 0, off_s: 77 } });
    expect(changes).toContainEqual({ move: { at_s: 77, level: 2 } });
    expect(changes).toContainEqual({ hob_s: 200 });
    expect(changes).toContainEqual({ turn_s: 77 });
  });

  it("stay where they can be: an element is not switched off before it is on", () => {
    const flags = flagsOf(all, 600, () => undefined);
    const [on, off] = ["top-on", "top-off"].map((key) => flags.find((f) => f.key === key));
    expect(on?.max).toBeLessThan(90);
    expect(off?.min).toBeGreaterThan(0);
    for (const flag of flags) {
      expect(flag.min).toBeLessThanOrEqual(flag.atS);
      expect(flag.atS).toBeLessThanOrEqual(flag.max);
    }
  });
});
