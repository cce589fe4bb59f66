import { describe, expect, it } from "vitest";
import { clearOf, FLAG_H, markY, stripLayout } from "../../ui/stripLayout";
import { LEFT, PLOT } from "../../ui/stripScale";
import type { StripData, StripMoment } from "../../ui/stripTypes";
import { flagsOf } from "./flags";

const drawn = (more: Partial<StripData>, doneS: number): StripData => {
  const rows = [200, 220, 240, 250];
  return {
    traces: {
      t_s: [0, doneS, doneS * 1.6, doneS * 2],
      deck_c: rows,
      air_c: rows,
      base_c: rows,
      core_c: rows,
      base_l: rows,
      rim_l: rows,
      cheese_l: rows,
    },
    moments: [],
    preheat: { t_s: [0, 1800], deck_c: [20, 260], air_c: [20, 260] },
    preheatMin: 45,
    lookS: 0.9 * doneS,
    doneS,
    lateS: 1.2 * doneS,
    launchClock: "19:30",
    hasDeck: true,
    ...more,
  };
};

/** A label beside its mark's line, in a lane. */
interface Label {
  name: string;
  at: number;
  wide: number;
  lane: number;
  left: number;
}

// A generator of its own, so that a failure can be found again.
const drawing = (seed: number) => () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;

const crustMoments = (next: () => number, doneS: number): StripMoment[] => {
  const names = ["yeast stops", "starch sets", "crumb boils", "skin browns", "sugar burns"];
  let at = next() < 0.15 ? -200 : 0;
  return names
    .filter(() => next() < 0.9)
    .map((name) => {
      at += next() * 0.5 * doneS;
      return { key: "yeast", name, at_s: at, part: "crumb", temp_c: 20 + next() * 200, why: "So." };
    });
};

/** One drawn plan: every label that there can be, on a strip of any width, the pull anywhere. */
const layoutOf = (next: () => number) => {
  const some = <T>(value: T): T | null => (next() < 0.55 ? value : null);
  const doneS = 90 + next() * 1500;
  const data = drawn(
    {
      lookS: doneS * (0.6 + next() * 0.4),
      lateS: doneS * (1.05 + next() * 0.4),
      preheatMin: 10 + next() * 100,
      moments: crustMoments(next, doneS),
    },
    doneS,
  );
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
    1.5 * doneS,
    () => undefined,
  );
  const width = 760 + next() * 700;
  return { layout: stripLayout(data, flags, width), flags, data, width };
};

describe("the labels of a plan's strip", () => {
  it("never cover each other, a line of another's or the pull's, over 250 drawn plans", () => {
    const next = drawing(7);
    const covered: string[] = [];
    for (let k = 0; k < 250; k++) {
      const { layout, flags, data, width } = layoutOf(next);
      const { scale } = layout;
      const pull = scale.x(data.doneS);
      expect(layout.flags).toHaveLength(flags.length);
      const seen = data.moments.filter((m) => m.at_s <= 1.59 * data.doneS);
      expect(layout.marks.filter((m) => m.moment).length).toBeGreaterThanOrEqual(seen.length);
      const rows: Label[][] = [layout.flags.map((one) => ({ ...one, name: one.flag.name })), layout.marks];
      for (const row of rows)
        for (const one of row) {
          const inside = (px: number) => px > one.left + 1e-6 && px < one.left + one.wide - 1e-6;
          const where = `plan ${String(k)}, ${one.name}`;
          expect(one.left + one.wide, where).toBeLessThanOrEqual(width - 3);
          expect(one.left, where).toBeGreaterThan(0);
          // On the right of its line or on the left of it.
          expect(
            Math.min(Math.abs(one.left - one.at), Math.abs(one.left + one.wide - one.at)),
            where,
          ).toBeLessThan(1e-6);
          if (inside(pull)) covered.push(where);
          for (const other of row) {
            if (other === one) continue;
            const covers =
              other.lane === one.lane &&
              other.left < one.left + one.wide &&
              one.left < other.left + other.wide;
            expect(covers, where).toBe(false);
            if (other.lane > one.lane) expect(inside(other.at), `${where} under ${other.name}`).toBe(false);
          }
        }
      // Each row has its room: marks between curves and bands, flags under the bands, the pull's tag last.
      const lowest = Math.max(0, ...layout.marks.map((m) => markY(m.lane) + 17));
      expect(lowest).toBeLessThanOrEqual(layout.bandY(0) - 1);
      expect(markY(0)).toBeGreaterThanOrEqual(PLOT.bottom);
      for (const flag of layout.flags) {
        expect(layout.flagY(flag.lane)).toBeGreaterThan(layout.bandsEnd);
        expect(layout.flagY(flag.lane) + FLAG_H).toBeLessThanOrEqual(layout.height - 26);
      }
    }
    expect(covered).toEqual([]);
  });

  it("stand on their band clear of every line across it, or not at all", () => {
    const next = drawing(5);
    let stood = 0;
    for (let k = 0; k < 2000; k++) {
      const from = LEFT + next() * 400;
      const to = from + next() * 300;
      const wide = 30 + next() * 90;
      const lines = Array.from({ length: Math.floor(next() * 5) }, () => LEFT + next() * 700);
      const left = clearOf(lines, from, to, wide);
      const room = [from, ...lines.filter((at) => at > from && at < to), to].sort((a, b) => a - b);
      const widest = Math.max(...room.slice(1).map((at, i) => at - (room[i] ?? 0)));
      if (left === null) {
        // It fits nowhere: no gap between two lines holds it with its margins.
        expect(widest).toBeLessThan(wide + 6 + 4);
        continue;
      }
      stood++;
      expect(left).toBeGreaterThan(from);
      expect(left + wide).toBeLessThanOrEqual(to);
      for (const at of lines) expect(at > left && at < left + wide).toBe(false);
    }
    expect(stood).toBeGreaterThan(500);
  });
});
