import { describe, expect, it } from "vitest";
import { drawnMm, ovenGeometry, type OvenState } from "./ovenGeometry";
import { flagsOf } from "../views/plan/flags";
import { BANDS_END, FLAG_H, H, heightOf, inFlagLanes, LEFT, stripScale, type StripData } from "./stripScale";

const oven = (more: Partial<OvenState>) =>
  ({ kind: "electric_oven", heightsCm: [6, 11, 16, 21, 26], cavityCm: 34, level: 3, ...more }) as OvenState;

describe("an oven drawn to scale", () => {
  it("has its levels where they are, and the nearest is found", () => {
    const at = ovenGeometry(oven({}));
    const heights = [1, 2, 3, 4, 5].map(at.levelY);
    expect(heights).toEqual([...heights].sort((a, b) => b - a));
    for (const level of [1, 2, 3, 4, 5]) expect(at.nearest(at.levelY(level) + 3)).toBe(level);
    expect(at.nearest(-1000)).toBe(5);
  });

  it("keeps fan and figures out of the way of what stands high", () => {
    const low = ovenGeometry(oven({ level: 1 }));
    const high = ovenGeometry(oven({ level: 5 }));
    expect(high.quietY).toBeGreaterThan(low.quietY);
  });

  it("is smaller where the oven is, and nothing is too thin to be seen", () => {
    expect(ovenGeometry(oven({ kind: "countertop_oven" })).CAVITY.w).toBeLessThan(
      ovenGeometry(oven({})).CAVITY.w,
    );
    expect(drawnMm(0.8)).toBe(2.5);
    expect(drawnMm(20)).toBeGreaterThan(drawnMm(10));
  });
});

describe("the strip", () => {
  const data = (more: Partial<StripData> = {}): StripData => ({
    traces: {
      t_s: [0, 300, 600, 900],
      deck_c: [260, 250, 245, 245],
      air_c: [260, 255, 260, 260],
      base_c: [20, 120, 150, 160],
      core_c: [20, 80, 95, 98],
      base_l: [84, 75, 65, 55],
      rim_l: [84, 78, 70, 60],
      cheese_l: [84, 80, 76, 70],
    },
    preheat: { t_s: [0, 1800], deck_c: [20, 260], air_c: [20, 260] },
    preheatMin: 45,
    lookS: 380,
    doneS: 450,
    lateS: 560,
    launchClock: "19:30",
    hasDeck: true,
    ...more,
  });

  it("has the launch between its two times, and ends after what must be seen", () => {
    const scale = stripScale(data(), 1100);
    expect(scale.pre(0)).toBeLessThan(scale.launchX);
    expect(scale.pre(-45 * 60)).toBeGreaterThan(LEFT);
    expect(scale.end).toBeGreaterThan(560);
    expect(scale.clamp(1e6)).toBe(scale.end);
    expect(scale.clamp(-5)).toBe(0);
    expect(BANDS_END).toBeGreaterThan(0);
  });

  it("holds a preheat of any length", () => {
    for (const preheatMin of [5, 75, 76, 150]) {
      const scale = stripScale(data({ preheatMin }), 1100);
      expect(scale.pre(-preheatMin * 60)).toBeGreaterThanOrEqual(LEFT);
    }
  });

  it("draws a line as far as it is asked to, and none of nothing", () => {
    const scale = stripScale(data(), 1100);
    expect(scale.path([0, 300, 600], [1, 2, 3], scale.x, 300).split("L")).toHaveLength(2);
    expect(scale.path([], [], scale.x, 300)).toBe("");
  });

  it("never lets flags, their lines and the pull's cover each other, over 250 drawn plans", () => {
    // A generator of its own, so that a failure can be found again.
    let seed = 7;
    const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
    const some = <T>(value: T): T | null => (next() < 0.55 ? value : null);
    for (let k = 0; k < 250; k++) {
      const doneS = 90 + next() * 1500;
      const plan = data({
        doneS,
        lookS: 0.9 * doneS,
        lateS: doneS * (1.05 + next() * 0.4),
        preheatMin: 10 + next() * 100,
      });
      plan.traces.t_s = [0, doneS, doneS * 1.6, doneS * 2];
      const scale = stripScale(plan, 760 + next() * 700);
      const on = -600 + next() * (600 + doneS);
      const flags = flagsOf(
        {
          top_element: some({ on_s: on, off_s: on + 15 + next() * doneS }),
          shield: some({ on_s: next() * doneS, off_s: 2 * doneS }),
          turn_s: some(next() * doneS),
          par_bake_s: some(next() * doneS),
          cheese_s: some(next() * doneS),
          flip_s: some(next() * doneS),
          move: some({ at_s: next() * doneS, level: 2 }),
          hob_s: some(20 + next() * 400),
        } as unknown as Parameters<typeof flagsOf>[0],
        scale.end,
        () => undefined,
      );
      const handleS = next() < 0.5 ? doneS : next() * scale.end;
      const placed = inFlagLanes(flags, scale, handleS);
      expect(placed).toHaveLength(flags.length);
      const pull = scale.x(handleS);
      const deepest = Math.max(0, ...placed.map((p) => p.lane));
      expect(heightOf(deepest + 1)).toBe(H + deepest * FLAG_H);
      for (const one of placed) {
        const inside = (px: number) => px > one.left + 1e-6 && px < one.left + one.wide - 1e-6;
        const where = `plan ${String(k)}, ${one.flag.name}`;
        expect(one.left + one.wide, where).toBeLessThanOrEqual(scale.right + 1e-6);
        expect(one.left, where).toBeGreaterThan(0);
        // On the right of its line or on the left of it, and never under the pull's.
        expect(
          Math.min(Math.abs(one.left - one.at), Math.abs(one.left + one.wide - one.at)),
          where,
        ).toBeLessThan(1e-6);
        if (one.left === one.at) expect(inside(pull), where).toBe(false);
        for (const other of placed) {
          if (other === one) continue;
          const covers =
            other.lane === one.lane && other.left < one.left + one.wide && one.left < other.left + other.wide;
          expect(covers, where).toBe(false);
          if (other.lane > one.lane)
            expect(inside(other.at), `${where} under ${other.flag.name}`).toBe(false);
        }
      }
    }
  });
});
