import { describe, expect, it } from "vitest";
import { newDraft } from "../ui/planDraft";
import {
  EMPTY,
  onePile,
  programmed,
  withDough,
  withPizzas,
  withPlan,
  withRig,
  withStyle,
  withTime,
  withWords,
  type RigIds,
} from "./draft";
import { changed, doughOf, pile } from "./draftsDrawn";
import type { PlanPart, SupperDraft, Words } from "./types";

const WORDS = {
  serve_at: "2026-12-05T19:30",
  pizzas: 4,
  programme: "cold_1",
  yeast: "as_is",
  yeast_pct: null,
};
const words = WORDS as unknown as Words;
const { sentence } = newDraft("home_oven_round", { hearth_id: 1, surface_id: 1, pan_id: null });
const typed = { setpoint_c: 400, level: 2, preheat_min: 37 } as PlanPart["controls"];
const plan: PlanPart = {
  sentence: { ...sentence, people: 3, diameter_cm: 31, topping: "light", parchment: true },
  controls: typed,
};
const later = [{ stage: "balls", place: "fridge", hours: 24, temp_c: 4 }];

/** Suppers with and without each part, with one lot and with several, with a dose the cook set. */
const SUPPERS: Record<string, SupperDraft> = {
  whole: { name: "Fog night", words, dough: doughOf(pile(4)), plan },
  "a dose of the cook's": {
    name: "",
    words: { ...words, yeast: "solve", yeast_pct: 0.21 },
    dough: doughOf(pile(4)),
    plan,
  },
  "two lots and one for tomorrow": {
    name: "",
    words,
    dough: doughOf(pile(3), pile(1), pile(2, later)),
    plan,
  },
  "no dough": { name: "x", words, dough: null, plan },
  "no oven": { name: "x", words, dough: doughOf(pile(4)), plan: null },
  "no date": { name: "x", words: null, dough: doughOf(pile(4)), plan },
  nothing: EMPTY,
};

const PLACES: RigIds[] = [
  { hearth_id: 1, surface_id: null, pan_id: 5 },
  { hearth_id: 2, surface_id: 3, pan_id: null },
];
// What a rig sets, and what is only true of the one before it.
const RIG =
  /^\.plan\.(controls(\..*)?|sentence\.(hearth_id|surface_id|pan_id|method|pan_width_cm|pan_depth_cm|deck_reading_c))$/;
const CRUST = /^\.plan\.sentence\.(style|own_style_id|base|rim|diameter_cm)$/;

/** Every act of the line and of the views on the supper, and all that each of them names. */
const ACTS: Record<string, [(was: SupperDraft) => SupperDraft, RegExp[]]> = {
  "a day and a time": [
    (was) => withWords(was, words, { serve_at: "2026-12-06T18:00" }),
    [/^\.words\.serve_at$/],
  ],
  "a time": [(was) => withTime(was, "18:00"), [/^\.words\.serve_at$/]],
  "a number of pizzas": [
    (was) => withPizzas(was, was.words ?? words, 6),
    [/^\.words\.pizzas$/, /^\.dough\.dough\.formula\.pieces\.\d\.count$/],
  ],
  "other hours": [
    (was) => withWords(was, words, programmed("cold_3", was.words ?? words, was.dough !== null)),
    [/^\.words\.(programme|yeast|yeast_pct)$/],
  ],
  "another surface": [
    (was) => (was.plan ? withRig(was, was.plan, { hearth_id: 1, surface_id: 2, pan_id: null }) : was),
    [RIG],
  ],
  "another style": [
    (was) => withStyle(was, { key: "new_york", ownId: null }, was.plan, PLACES),
    [RIG, CRUST, /^\.dough\.dough\.formula\.(style|own_style)$/],
  ],
  "a style of the cook's": [
    (was) => withStyle(was, { key: "own-7", ownId: 7 }, was.plan, [sentence]),
    [RIG, CRUST, /^\.dough\.dough\.formula\.(style|own_style)$/],
  ],
  "a dial": [
    (was) =>
      was.plan ? withPlan(was, { ...was.plan, controls: { ...typed, setpoint_c: 390 } as never }) : was,
    [/^\.plan\.controls\.setpoint_c$/],
  ],
  "the dough's name": [
    (was) => (was.dough ? withDough(was, { ...was.dough, name: "Relief-boat rounds" }) : was),
    [/^\.dough\.name$/],
  ],
};

describe("every act on every supper", () => {
  for (const [act, [to, names]] of Object.entries(ACTS))
    for (const [kind, was] of Object.entries(SUPPERS))
      it(`${act}; ${kind}: what it does not name stays`, () => {
        const before = JSON.stringify(was);
        // A part that was not there is begun by an act that names it.
        const whole = { ...was, words: was.words ?? words };
        const after = to(was);
        for (const key of changed(whole, { ...after, words: after.words ?? words }))
          expect(
            names.some((name) => name.test(key)),
            key,
          ).toBe(true);
        expect(JSON.stringify(was)).toBe(before);
        expect(to(after)).toEqual(after);
      });

  it("takes of a rig what a sentence has, and nothing else of it", () => {
    const rig = { hearth_id: 1, surface_id: 2, pan_id: null, support: "10 mm steel", styles: ["new_york"] };
    expect(newDraft("new_york", rig).sentence).not.toHaveProperty("support");
    expect(withRig(EMPTY, plan, rig).plan?.sentence).not.toHaveProperty("support");
  });

  it("does what it names", () => {
    const whole = SUPPERS.whole ?? EMPTY;
    const act = (name: string) => ACTS[name]?.[0](whole) ?? EMPTY;
    expect(act("a day and a time").words?.serve_at).toBe("2026-12-06T18:00");
    expect([
      act("a number of pizzas").words?.pizzas,
      onePile(act("a number of pizzas").dough?.dough as never),
    ]).toEqual([6, 6]);
    expect(act("other hours").words).toMatchObject({ programme: "cold_3", yeast: "as_is" });
    expect(act("another surface").plan).toMatchObject({ sentence: { surface_id: 2 }, controls: null });
    // What it stood on is no place for it: the first that is.
    expect(act("another style").plan?.sentence).toMatchObject({
      style: "new_york",
      surface_id: null,
      pan_id: 5,
    });
    expect(act("another style").dough?.dough.formula.style).toBe("new_york");
    expect(act("a style of the cook's").plan?.sentence).toMatchObject({ own_style_id: 7, surface_id: 1 });
    expect(act("a style of the cook's").dough).toEqual(whole.dough);
  });
});
