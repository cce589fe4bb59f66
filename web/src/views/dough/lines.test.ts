import { describe, expect, it } from "vitest";
import { held, withMore, without } from "./lines";
import { awaited, localField } from "./types";

const flours = new Set(["bread_flour", "rye_flour", "plain_flour"]);
const isFlour = (key: string) => flours.has(key);
const line = (ingredient: string, pct: number, locked = false) => ({ ingredient, pct, locked });
const dough = [line("bread_flour", 80), line("rye_flour", 20), line("water", 65, true), line("salt", 2)];
const flourSum = (lines: readonly { ingredient: string; pct: number }[]) =>
  lines.filter((l) => isFlour(l.ingredient)).reduce((sum, l) => sum + l.pct, 0);

describe("lines of a formula", () => {
  it("left out: the other flours take a flour's place, the rest stays", () => {
    const left = without(dough, "bread_flour", isFlour);
    expect(left.map((l) => [l.ingredient, l.pct])).toEqual([
      ["rye_flour", 100],
      ["water", 65],
      ["salt", 2],
    ]);
    expect(without(dough, "salt", isFlour).map((l) => l.ingredient)).toEqual([
      "bread_flour",
      "rye_flour",
      "water",
    ]);
    expect(without(dough, "malt", isFlour)).toEqual(dough);
  });

  it("the last flour left out and another put in makes a dough again", () => {
    const none = without(without(dough, "bread_flour", isFlour), "rye_flour", isFlour);
    expect(flourSum(none)).toBe(0);
    const again = withMore(none, { key: "plain_flour", role: "flour" }, isFlour);
    expect(again[0]).toMatchObject({ ingredient: "plain_flour", pct: 100 });
    expect(again.map((l) => l.ingredient)).toEqual(["plain_flour", "water", "salt"]);
  });

  it("another flour beside a whole one begins at nothing", () => {
    const more = withMore(dough, { key: "plain_flour", role: "flour" }, isFlour);
    expect(flourSum(more)).toBe(100);
    expect(more.map((l) => l.ingredient).indexOf("plain_flour")).toBe(2);
  });

  it("put in twice is there once; of a strange kind there is a little", () => {
    expect(withMore(dough, { key: "salt", role: "salt" }, isFlour)).toEqual(dough);
    expect(withMore(dough, { key: "honey", role: "sugar" }, isFlour).at(-1)).toMatchObject({ pct: 1 });
    expect(withMore(dough, { key: "smoke", role: "air" }, isFlour).at(-1)).toMatchObject({ pct: 1 });
  });

  it("held and let go, whatever stands before it", () => {
    expect(held(dough, "water").find((l) => l.ingredient === "water")?.locked).toBe(false);
    expect(held(held(dough, "salt"), "salt")).toEqual(dough);
  });

  it("none of these changes the lines they were given", () => {
    const before = JSON.stringify(dough);
    without(dough, "bread_flour", isFlour);
    withMore(dough, { key: "honey", role: "sugar" }, isFlour);
    held(dough, "water");
    expect(JSON.stringify(dough)).toBe(before);
  });
});

describe("what is waited for", () => {
  const stage = (name: string, from_h: number, to_h: number, ready_h: number | null) =>
    ({ stage: name, from_h, to_h, ready_h, best_h: null, too_far_h: null, word: "" }) as never;

  it("is a bulk that gets ready in its time, and always the last", () => {
    expect(awaited([stage("bulk", 0, 4, 3), stage("ball", 4, 6, null)])).toHaveLength(2);
    // Divided long before it is ready: nobody waits for it.
    expect(awaited([stage("bulk", 0, 4, 12), stage("ball", 4, 6, 5)])).toHaveLength(1);
    expect(awaited([stage("ball", 0, 6, null)])).toHaveLength(1);
  });

  it("a field shows the local minute of a moment", () => {
    const moment = new Date(2026, 10, 28, 7, 5, 42);
    expect(localField(moment)).toBe("2026-11-28T07:05");
  });
});
