import { describe, expect, it } from "vitest";
import { dueOf, handsNow, launchMs, missed, REST_S } from "../../ui/bakeDue";
import { linesOf } from "./log";
import { stages } from "../../ui/bakeStages";
import type { Live } from "../../ui/bakeTypes";

const T0 = 1_800_000_000_000;
const at = (s: number) => new Date(T0 + s * 1000).toISOString();
const told = (id: string, kind: string, s: number, payload: Record<string, unknown> = {}) => ({
  id,
  kind,
  at: at(s),
  payload,
  undone: false,
});
const heating = {
  launch: { at_s: 2400 },
  hands: [
    { at_s: -300, label: "Open the base" },
    { at_s: -60, label: "Slip test" },
  ],
  coming: [],
  pull: { low: 250, likely: 300, high: 380 },
  next: { back_s: 240, pull: { low: 250, likely: 300, high: 380 } },
} as unknown as Live;

describe("what calls next", () => {
  it("is what hands do before a launch, one after another, then the launch", () => {
    const stage = stages([], 1);
    const key = (s: number) => dueOf(stage, heating, T0, T0 + s * 1000)?.text;
    expect([key(0), key(2110), key(2200), key(2380), key(2500)]).toEqual([
      "Open the base",
      "Open the base",
      "Slip test",
      "Launch now",
      "Launch now",
    ]);
    expect(handsNow(heating, T0 + 2400_000, T0 + 2200_000)).toBe("Open the base");
    expect(handsNow(heating, T0 + 2400_000, T0 + 2000_000)).toBeNull();
  });

  it("is the knife after a rest, and nothing after the end", () => {
    const pulled = [told("a", "bake.launched", 0), told("b", "bake.pulled", 300)];
    expect(dueOf(stages(pulled, 1), heating, T0, T0)?.atMs).toBe(T0 + (300 + REST_S) * 1000);
    expect(dueOf(stages([...pulled, told("e", "bake.ended", 500)], 1), heating, T0, T0)).toBeNull();
  });

  it("waits for the deck by the last answer when nobody can be asked", () => {
    const stage = stages([told("a", "bake.launched", 0), told("b", "bake.pulled", 300)], 2);
    expect(launchMs({ ...heating, launch: null } as Live, stage, T0)).toBe(T0 + 540_000);
    expect(launchMs(null, stage, T0)).toBeNull();
  });

  it("is missed only where the page slept over its moment", () => {
    const due = { key: "1 Turn", text: "Turn", atMs: T0 + 60_000 };
    expect(missed(due, T0 + 59_500, T0 + 60_200)).toBeNull();
    expect(missed(due, T0, T0 + 90_000)).toEqual(due);
    expect(missed(due, T0 + 61_000, T0 + 90_000)).toBeNull();
    expect(missed(null, T0, T0 + 90_000)).toBeNull();
  });
});

const word = () => "tan";

describe("the log", () => {
  it("gives each pizza what was told of it, readings to the launch they came before", () => {
    const evening = [
      told("r1", "bake.read", 1000, { deck_c: 200 }),
      told("l1", "bake.launched", 2400),
      told("s1", "bake.seen", 2500, { base: 70, rim: "golden" }),
      told("p1", "bake.pulled", 2700),
      told("r2", "bake.read", 2800, { deck_c: 230 }),
      told("l2", "bake.launched", 3000, { pizza: 2 }),
      told("x", "bake.seen", 3050, { base: 60, pizza: 2 }),
      told("u", "bake.undone", 3060, { event: "x" }),
      told("p2", "bake.pulled", 3300, { pizza: 2 }),
    ];
    expect(linesOf(evening, 1, 2, word).map((one) => one.id)).toEqual(["r1", "l1", "s1", "p1"]);
    expect(linesOf(evening, 2, 2, word).map((one) => one.id)).toEqual(["r2", "l2", "p2"]);
    expect(linesOf(evening, 1, 2, word)[2]).toMatchObject({
      sinceS: 100,
      text: "seen: base tan, rim golden",
    });
    expect(linesOf(evening, 2, 2, word)[0]).toMatchObject({ sinceS: null, deckC: 230 });
  });
});
