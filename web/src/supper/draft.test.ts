import { describe, expect, it } from "vitest";
import { newDraft } from "../ui/planDraft";
import { supperAtHand } from "./atHand";
import {
  bakesAsSaved,
  draftOf,
  eatenAt,
  EMPTY,
  onePile,
  withDough,
  withPizzas,
  withPlan,
  withTime,
} from "./draft";
import { changed, doughOf, pile } from "./draftsDrawn";
import type { PlanPart, SavedSupper, SupperDraft, Words } from "./types";
import { usualName } from "./useSupper";

const WORDS = {
  serve_at: "2026-12-05T19:30",
  pizzas: 4,
  programme: "cold_1",
  yeast_pct: 0.3,
} as unknown as Words;
const { sentence } = newDraft("home_oven_round", { hearth_id: 1, surface_id: 1, pan_id: null });
const CONTROLS = { setpoint_c: 275, level: 2, preheat_min: 50 } as PlanPart["controls"];
const PLAN: PlanPart = { sentence, controls: CONTROLS };
const WHOLE: SupperDraft = { name: "Fog night", words: WORDS, dough: doughOf(pile(4)), plan: PLAN };

describe("an act changes what it names and nothing else", () => {
  it("a number of pizzas is the number of the one pile, too", () => {
    expect(changed(WHOLE, withPizzas(WHOLE, WORDS, 6))).toEqual([
      ".dough.dough.formula.pieces.0.count",
      ".words.pizzas",
    ]);
  });

  it("of several piles none is changed by it", () => {
    const two = { ...WHOLE, dough: doughOf(pile(4), pile(1)) };
    expect(changed(two, withPizzas(two, WORDS, 6))).toEqual([".words.pizzas"]);
    expect(onePile(doughOf(pile(4), pile(2, [{ hours: 90, temp_c: -18 }])).dough)).toBe(4);
  });

  it("another formula leaves the number, the hours of the supper and its yeast", () => {
    const salted = doughOf(pile(4));
    salted.dough.formula.lines = [{ ingredient: "salt", pct: 3 }] as never;
    expect(changed(WHOLE, withDough(WHOLE, salted))).toEqual([".dough.dough.formula.lines.0.pct"]);
  });

  it("another count in the dough is the number of the supper", () => {
    expect(changed(WHOLE, withDough(WHOLE, doughOf(pile(7))))).toEqual([
      ".dough.dough.formula.pieces.0.count",
      ".words.pizzas",
    ]);
    // More than a supper can have is the dough's alone.
    expect(changed(WHOLE, withDough(WHOLE, doughOf(pile(13))))).toEqual([
      ".dough.dough.formula.pieces.0.count",
    ]);
  });

  it("a dial, a level, minutes, an oven leave the dough and the days", () => {
    const plans: PlanPart[] = [
      { sentence, controls: null },
      { sentence, controls: { ...CONTROLS, level: 1 } as PlanPart["controls"] },
      { sentence: { ...sentence, hearth_id: 2, crumb: "soft" }, controls: CONTROLS },
    ];
    for (const plan of plans)
      for (const key of changed(WHOLE, withPlan(WHOLE, plan))) expect(key).toMatch(/^\.plan\./);
  });

  it("a style is the dough's, too; its formula stays", () => {
    const to = withPlan(WHOLE, { sentence: { ...sentence, style: "new_york" }, controls: null });
    expect(changed(WHOLE, to).filter((key) => key.startsWith(".dough"))).toEqual([
      ".dough.dough.formula.own_style",
      ".dough.dough.formula.style",
    ]);
  });
});

describe("the time", () => {
  it("is the supper's, in Plan, too; its plan stays as it is", () => {
    expect(eatenAt(WHOLE, { ...sentence, serve_at: "18:00" })).toBe("19:30");
    expect(eatenAt({ ...WHOLE, words: null }, { ...sentence, serve_at: "18:00" })).toBe("18:00");
    expect(changed(WHOLE, withTime(WHOLE, "20:15"))).toEqual([".words.serve_at"]);
    expect(withTime(WHOLE, "20:15").words?.serve_at).toBe("2026-12-05T20:15");
    expect(withTime(EMPTY, "20:15")).toEqual(EMPTY);
  });
});

describe("what is saved", () => {
  const saved = {
    id: 3,
    version: 2,
    name: "Fog night",
    words: WORDS,
    dough: { id: 8, name: "Rounds", dough: WHOLE.dough?.dough, mixed_at: null },
    plan: { id: 9, sentence, result: { controls: CONTROLS } },
  } as unknown as SavedSupper;

  it("is a draft that bakes as it was stored", () => {
    expect(draftOf(saved)).toEqual(WHOLE);
    expect(bakesAsSaved(draftOf(saved), saved)).toBe(true);
    // Another date, and what was seen of the dough, do not change the bake; its formula does.
    const seen = {
      ...WHOLE,
      words: null,
      name: "x",
      dough: { ...doughOf(pile(4)), mixedAt: "2026-12-04T10:00Z" },
    };
    expect(bakesAsSaved(seen, saved)).toBe(true);
    expect(bakesAsSaved({ ...WHOLE, dough: doughOf(pile(5)) }, saved)).toBe(false);
    expect(bakesAsSaved({ ...WHOLE, dough: null }, saved)).toBe(false);
    expect(bakesAsSaved(EMPTY, null)).toBe(false);
  });

  it("has a usual name of its line", () => {
    const line = {
      when: "Saturday 5 December, 19:30",
      what: "Home-oven round: 4 of {250 g} each",
      where: "steel, oven",
      dough: "",
    };
    expect(usualName(line)).toBe("Home-oven round, Saturday 5 December");
    expect(usualName({ ...line, when: "No date yet" })).toBe("Home-oven round, steel, oven");
    expect(usualName(null)).toBe("Supper");
  });
});

describe("the supper at hand", () => {
  const now = new Date("2026-12-02T12:00Z").getTime();
  const suppers = [
    { id: 1, serve_at: "2026-12-12T19:30Z" },
    { id: 2, serve_at: "2026-12-05T19:30Z" },
    { id: 3, serve_at: "2026-11-28T19:30Z" },
    { id: 4, serve_at: null },
  ];
  it("is the one opened last while it is ahead, else the next by date, else a new one", () => {
    expect(supperAtHand(suppers, "1", false, now)).toBe("1");
    expect(supperAtHand(suppers, "4", false, now)).toBe("4");
    expect(supperAtHand(suppers, "3", false, now)).toBe("2");
    expect(supperAtHand(suppers, "99", false, now)).toBe("2");
    expect(supperAtHand(suppers, "new", true, now)).toBe("new");
    expect(supperAtHand(suppers, "new", false, now)).toBe("2");
    expect(supperAtHand([], null, false, now)).toBe("new");
  });
});
