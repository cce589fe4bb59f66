import { describe, expect, it } from "vitest";
import { answerFor, last, matched, nextOf, stages, stillComing, when } from "./bakeStages";
import type { Coming } from "./bakeTypes";

const at = (s: number) => new Date(1_800_000_000_000 + s * 1000).toISOString();
const told = (id: string, kind: string, s: number, payload: Record<string, unknown> = {}) => ({
  id,
  kind,
  at: at(s),
  payload,
});
const turn: Coming = {
  do: "turn",
  at_s: 185,
  label: "Turn it half round",
  gives: { at_s: 185, do: "turn", level: null, setpoint_c: null, power_kw: null, seconds: 15 },
  repeats: false,
};

describe("a bake's stages", () => {
  it("takes the first of two pulls, in whatever order they came", () => {
    const happened = [
      told("b", "bake.pulled", 320),
      told("a", "bake.launched", 0),
      told("c", "bake.pulled", 300),
    ];
    expect(stages(happened).pulledMs).toBe(Date.parse(at(300)));
  });

  it("is heating again when the launch is taken back", () => {
    const happened = [told("a", "bake.launched", 0), told("u", "bake.undone", 5, { event: "a" })];
    expect(stages(happened).launchedMs).toBeNull();
    expect(last(happened)).toBeNull();
  });

  it("takes back the latest of what stands, never an undoing or the end", () => {
    const happened = [
      told("a", "bake.launched", 0),
      told("s", "bake.seen", 60, { base: 70 }),
      told("u", "bake.undone", 61, { event: "s" }),
      told("e", "bake.ended", 70),
    ];
    expect(last(happened)?.id).toBe("a");
  });

  it("marks the swatch that was just matched, and forgets it after a minute", () => {
    const happened = [told("s", "bake.seen", 60, { base: 70 }), told("r", "bake.seen", 62, { rim: 58 })];
    expect(matched(happened, "base", Date.parse(at(70)), 1)).toBe(70);
    expect(matched(happened, "rim", Date.parse(at(70)), 1)).toBe(58);
    expect(matched(happened, "base", Date.parse(at(130)), 1)).toBeNull();
  });
});

describe("the next action", () => {
  const pull = { low: 250, likely: 300, high: 380 };

  it("is what is planned, overdue or not, before looking and pulling", () => {
    expect(nextOf({ coming: [turn], pull }, 100).text).toBe("Turn it half round");
    expect(nextOf({ coming: [turn], pull }, 200).leftS).toBe(-15);
    expect(nextOf({ coming: [], pull }, 200).text).toBe("Look at it");
    expect(nextOf({ coming: [], pull }, 260)).toMatchObject({ text: "Pull it", leftS: 40 });
  });

  it("leaves out what would come after the pull", () => {
    expect(nextOf({ coming: [{ ...turn, at_s: 900 }], pull }, 260).text).toBe("Pull it");
  });

  it("says when in words", () => {
    expect([when(28), when(2), when(-3), when(-12)]).toEqual(["in 0:28", "now", "now", "due since 0:12"]);
  });
});

describe("a row of pizzas", () => {
  const row = [
    told("a", "bake.launched", 0),
    told("b", "bake.pulled", 300),
    told("c", "bake.launched", 700, { pizza: 2 }),
  ];

  it("has one at hand, with its own times", () => {
    expect(stages(row.slice(0, 2), 3)).toMatchObject({
      pizza: 2,
      count: 3,
      launchedMs: null,
      beforeMs: Date.parse(at(300)),
    });
    expect(stages(row, 3)).toMatchObject({ pizza: 2, launchedMs: Date.parse(at(700)), pulledMs: null });
    expect(stages([...row, told("d", "bake.pulled", 900, { pizza: 2 })], 2)).toMatchObject({
      pizza: 2,
      pulledMs: Date.parse(at(900)),
    });
  });

  it("takes a launch for the pull that nobody told of before it", () => {
    const untold = [told("a", "bake.launched", 0), told("c", "bake.launched", 700, { pizza: 2 })];
    expect(stages(untold, 3).beforeMs).toBe(Date.parse(at(700)));
  });

  it("grows by one more", () => {
    const done = [...row, told("d", "bake.pulled", 900, { pizza: 2 })];
    expect(stages([...done, told("e", "bake.more", 950)], 2)).toMatchObject({ pizza: 3, count: 3 });
  });

  it("knows what of the plan is left of the pizza at hand", () => {
    const turned = told("t", "bake.done", 180, { do: "turn" });
    expect(stillComing([turn], [turned], 1)).toEqual([]);
    expect(stillComing([turn], [turned], 2)).toEqual([turn]);
    expect(stillComing([turn], [turned, told("u", "bake.undone", 181, { event: "t" })], 1)).toEqual([turn]);
  });

  it("goes on by the last answer where nobody can be asked of the next pizza", () => {
    const live = {
      pizza: 1,
      launched: true,
      planned: [turn],
      next: { back_s: 240, pull: { low: 1, likely: 2, high: 3 } },
    };
    const of = (pizza: number) => answerFor(live as never, { ...stages([], 3), pizza });
    expect(of(1)?.launched).toBe(true);
    expect(of(2)).toMatchObject({ launched: false, pull: { likely: 2 }, coming: [turn], actions: [] });
    expect(answerFor({ ...live, pizza: 3 } as never, stages([], 3))).toBeNull();
  });
});
