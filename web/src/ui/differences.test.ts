import { describe, expect, it } from "vitest";
import { differences, inWords } from "./differences";

const names = (mine: unknown, theirs: unknown) => differences(mine, theirs).shown.map((one) => one.name);

describe("two versions side by side", () => {
  it("show what differs, with both values in words", () => {
    const mine = { name: "Tuesday", people: 2, parchment: true, serve_at: "19:30", method: null };
    const theirs = { name: "Tuesday", people: 4, parchment: false, serve_at: "19:30", method: "low_deck" };
    expect(differences(mine, theirs).shown).toEqual([
      { name: "people", mine: "2", theirs: "4" },
      { name: "parchment", mine: "yes", theirs: "no" },
      { name: "method", mine: "–", theirs: "low deck" },
    ]);
  });

  it("of the same say nothing, whatever the order of keys", () => {
    expect(differences({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1 })).toEqual({
      shown: [],
      more: 0,
    });
    expect(differences(null, null).shown).toEqual([]);
    expect(differences({ x: 0.30000000001 }, { x: 0.3 }).shown).toEqual([]);
  });

  it("tell rows by what they are, not by where they stand", () => {
    const line = (ingredient: string, pct: number) => ({ ingredient, pct });
    const mine = { lines: [line("water", 65), line("salt", 2)] };
    const theirs = { lines: [line("salt", 2), line("water", 70), line("olive_oil", 3)] };
    expect(differences(mine, theirs).shown).toEqual([
      { name: "lines: water: pct", mine: "65", theirs: "70" },
      { name: "lines: olive oil: ingredient", mine: "–", theirs: "olive oil" },
      { name: "lines: olive oil: pct", mine: "–", theirs: "3" },
    ]);
  });

  it("tell two rows of one name apart", () => {
    const steps = (a: number, b: number) => ({
      steps: [
        { place: "room", hours: a },
        { place: "room", hours: b },
      ],
    });
    expect(names(steps(1, 2), steps(1, 3))).toEqual(["steps: room 2: hours"]);
  });

  it("leave out what nobody set", () => {
    expect(
      names(
        { id: 1, version: 2, updated_at: "a", mass_kg: 1 },
        { id: 2, version: 3, updated_at: "b", mass_kg: 2 },
      ),
    ).toEqual([]);
  });

  it("stay short, and say how many more there are", () => {
    const many = (by: number) =>
      Object.fromEntries(Array.from({ length: 40 }, (_, i) => [`k${String(i)}`, i + by]));
    const told = differences(many(0), many(1));
    expect(told.shown.length + told.more).toBe(40);
    expect(told.shown.length).toBeLessThan(20);
  });

  it("name keys in words, with their unit", () => {
    expect(inWords("hydration_pct")).toBe("hydration, %");
    expect(inWords("max_setpoint_c")).toBe("max setpoint, °C");
    expect(inWords("c")).toBe("c");
    expect(inWords("name")).toBe("name");
  });
});
