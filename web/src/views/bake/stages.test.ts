import { describe, expect, it } from "vitest";
import { last, matched, nextOf, stages, when } from "./stages";
import type { Coming } from "./types";

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
