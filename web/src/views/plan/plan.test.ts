import { describe, expect, it } from "vitest";
import { decksAt } from "./decks";
import { levelBounds } from "./facts";
import { flagsOf } from "./flags";
import { styleOf } from "../../ui/planDraft";
import { firstDraft, newDraft, type Controls, type Rigs } from "./types";

describe("the first plan of a kitchen", () => {
  const rig = (key: string, hearth_id: number, surface_id: number | null, usual_style: string) =>
    ({ key, hearth_id, surface_id, pan_id: null, usual_style }) as unknown as Rigs["rigs"][number];
  const rigs = (first: string | null) =>
    ({
      rigs: [rig("h2", 2, null, "neapolitan"), rig("h1s3", 1, 3, "home_oven_round")],
      first,
      not_standing: [],
      missing: "",
      left_out: 0,
    }) as Rigs;

  it("is the rig that the server begins with, in the style it speaks of", () => {
    expect(firstDraft(rigs("h1s3"))?.sentence).toMatchObject({
      hearth_id: 1,
      surface_id: 3,
      style: "home_oven_round",
    });
    expect(firstDraft(rigs("h2"))?.sentence).toMatchObject({
      hearth_id: 2,
      surface_id: null,
      style: "neapolitan",
    });
  });

  it("of a kitchen in which nothing bakes is none", () => {
    expect(firstDraft(rigs(null))).toBeNull();
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

describe("how high a pizza may stand", () => {
  const overhead = { kind: "stone", thickness_mm: 15, level: 4 } as const;
  const below = { ...overhead, level: 1 };
  it("ends below a second deck, or where a shield still goes above it", () => {
    expect(levelBounds({ level: 3 }, 5)).toEqual([1, 5]);
    expect(levelBounds({ level: 2, overhead }, 5)).toEqual([1, 3]);
    // One below is for the pizza to go down onto: it stays above it.
    expect(levelBounds({ level: 4, overhead: below }, 5)).toEqual([3, 5]);
    expect(levelBounds({ level: 3, shield: { on_s: 100, off_s: 300 } }, 5)).toEqual([1, 4]);
    expect(levelBounds({ level: 1, shield: null, overhead: null }, 1)).toEqual([1, 1]);
  });

  it("lies on the second deck once it went onto it, and its own deck stays where it was", () => {
    const stone = { kind: "stone", thickness_mm: 15, level: 1 } as const;
    const steel = { kind: "steel", thickness_mm: 10 } as never;
    const controls = { level: 4, overhead: stone, move: { at_s: 120, level: 1 } };
    const before = decksAt(controls, steel, 40, false);
    const after = decksAt(controls, steel, 40, true);
    expect(before.under).toMatchObject({ kind: "steel", widthCm: 40 });
    expect(before.other).toMatchObject({ kind: "stone", level: 1, name: "second deck" });
    expect(after.under).toMatchObject({ kind: "stone", thicknessMm: 15 });
    expect(after.other).toMatchObject({ kind: "steel", level: 4, name: "first deck" });
    // Moved to another level than the second deck's, or with none, it keeps what it lies on.
    expect(decksAt({ ...controls, move: { at_s: 9, level: 2 } }, steel, 40, true).under?.kind).toBe("steel");
    expect(decksAt({ ...controls, overhead: null }, steel, 40, true)).toMatchObject({ other: null });
  });
});
