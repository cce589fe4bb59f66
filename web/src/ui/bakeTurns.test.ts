import { describe, expect, it } from "vitest";
import { dueOf } from "./bakeDue";
import { nextOf } from "./bakeStages";
import type { Coming, Live } from "./bakeTypes";

const turn = (at_s: number): Coming =>
  ({
    do: "turn",
    at_s,
    label: "Turn it a third round",
    gives: { do: "turn", at_s },
    repeats: true,
  }) as Coming;
const live = {
  coming: [20, 40, 60, 80, 100].map(turn),
  pull: { low: 70, likely: 88, high: 110 },
} as unknown as Live;
const stage = { launchedMs: 0, pulledMs: null, pizza: 2, count: 4, beforeMs: null, endedMs: null };

describe("turning beside a flame", () => {
  it("every turn before the pull calls once, each at its second, confirmed or not", () => {
    const called = new Map<string, number>();
    for (let ms = 0; ms <= 110_000; ms += 500) {
      const due = dueOf(stage, live, 0, ms);
      if (due && due.atMs <= ms && !called.has(due.key)) called.set(due.key, Math.round(due.atMs / 1000));
    }
    expect([...called.values()]).toEqual([20, 40, 60, 80, 88]);
  });

  it("a turn that was not confirmed is let go, and the next one counts", () => {
    expect(nextOf(live, 22).coming?.at_s).toBe(20);
    expect(nextOf(live, 30).coming?.at_s).toBe(40);
    expect(nextOf(live, 30).leftS).toBe(10);
  });

  it("a single turn waits until it is confirmed", () => {
    const one = { ...live, coming: [{ ...turn(40), repeats: false }] };
    expect(nextOf(one, 65).coming?.at_s).toBe(40);
  });
});
