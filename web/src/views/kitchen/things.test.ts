import { describe, expect, it } from "vitest";
import type { HearthKind, Kinds } from "../../ui/kinds";
import { kindsOf, numbersOf, switchesOf } from "./fields";
import { valuesOf, type Thing, type Noun } from "./things";
import { joined, type Reading } from "./useLive";

const kind = (heat: string, racks: boolean) => ({ key: "k", word: "k", heat, top: "", racks }) as HearthKind;
const [OVEN, FLAME, GRILL, HOB] = [
  kind("dial", true),
  kind("fire", false),
  kind("fire", true),
  kind("burner", false),
];
const HEARTHS = [OVEN, FLAME, GRILL, HOB];

describe("what is sent back of a thing", () => {
  const pan = {
    id: 4,
    version: 7,
    name: "tall pan",
    kind: "dark_aluminium",
    thickness_mm: 1.6,
    width_cm: 34,
    depth_cm: 24,
    mass_kg: 1.1,
    area_cm2: 816,
    coating_limit_c: null,
    wall_cm: 5,
    something_new: true,
  } as unknown as Thing;

  it("is what a cook said, never what the server worked out", () => {
    expect(valuesOf("pans", pan)).toEqual({
      name: "tall pan",
      kind: "dark_aluminium",
      thickness_mm: 1.6,
      width_cm: 34,
      depth_cm: 24,
      coating_limit_c: null,
      wall_cm: 5,
    });
  });

  it("holds every number that the form asks about", () => {
    const whole = (noun: Noun, kind?: HearthKind, tool = "") => {
      const keys = [
        ...numbersOf(noun, kind, false, tool).map((n) => n.key),
        ...switchesOf(noun, kind).map(([key]) => key),
      ];
      const thing = Object.fromEntries([...keys, "name", "kind"].map((key) => [key, 1])) as unknown as Thing;
      expect(Object.keys(valuesOf(noun, thing)).sort()).toEqual(Object.keys(thing).sort());
    };
    for (const tool of ["container", "mixer", "processor", "parchment"]) whole("tools", undefined, tool);
    for (const noun of ["surfaces", "pans", "instruments"] as const) whole(noun);
    for (const kind of HEARTHS) whole("hearths", kind);
  });

  it("an unknown kind of pan is offered with its words, a round one with its shape", () => {
    const kinds = { pans: [{ key: "new", word: "new metal", round: true }] } as unknown as Kinds;
    expect(kindsOf("pans", kinds)).toEqual([["new", "new metal, round"]]);
  });

  it("a fire is not asked about its fan, a hob only about its power", () => {
    expect(switchesOf("hearths", FLAME)).toEqual([]);
    expect(switchesOf("hearths", OVEN).length).toBeGreaterThan(2);
    expect(numbersOf("hearths", HOB).map((n) => n.key)).toEqual(["power_kw"]);
    expect(numbersOf("hearths", GRILL).some((n) => n.key === "rack_width_cm")).toBe(true);
  });
});

describe("live readings", () => {
  const at = (minute: number, deck_c: number): Reading => ({
    at: new Date(Date.UTC(2026, 10, 28, 17, minute)).toISOString(),
    deck_c,
    air_c: null,
  });

  it("join by their moments, in order, the first told of a moment stands", () => {
    const run = joined([at(1, 10), at(3, 30)], [at(2, 20), at(3, 99), at(4, 40)]);
    expect(run.map((r) => r.deck_c)).toEqual([10, 20, 30, 40]);
  });

  it("begin anew after a long pause", () => {
    expect(joined([at(0, 1), at(1, 2)], [at(30, 3), at(31, 4)]).map((r) => r.deck_c)).toEqual([3, 4]);
    expect(joined([], [])).toEqual([]);
  });

  it("never grow without end", () => {
    const many = Array.from({ length: 2500 }, (_, i) => ({
      at: new Date(i * 1000).toISOString(),
      deck_c: i,
      air_c: null,
    }));
    const run = joined(many, []);
    expect(run).toHaveLength(2000);
    expect(run.at(-1)?.deck_c).toBe(2499);
  });
});
