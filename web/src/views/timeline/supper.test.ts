import { describe, expect, it } from "vitest";
import { minuteOf } from "../../ui/time";
import { LABEL_ROWS, LEFT, RIGHT, scaleOf, spanOf, stepsIn, ticksOf } from "./ribbonScale";
import { rowSaid } from "./Agenda";
import { inRows } from "./stepNames";
import { programmed } from "../../supper/draft";
import { dayName, daysToChoose, taken } from "./supperWords";
import type { PlacedStep, Result } from "./types";

const step = (key: string, lane: string, at: string, ends: string) => ({ key, lane, at, ends, name: key });
const RESULT = {
  serve_at: "2026-11-28T19:30+00:00",
  steps: [
    step("mix", "hands", "2026-11-26T20:00+00:00", "2026-11-26T20:15+00:00"),
    step("ball", "dough", "2026-11-28T15:00+00:00", "2026-11-28T15:10+00:00"),
    step("heat", "hearth", "2026-11-28T18:20+00:00", "2026-11-28T19:20+00:00"),
    step("table_1", "table", "2026-11-28T19:30+00:00", "2026-11-28T19:40+00:00"),
  ],
  waits: [],
  shaded: [],
} as unknown as Result;

describe("a ribbon", () => {
  it("of the days holds every step, that of the evening the hours around the table", () => {
    const days = spanOf(RESULT, "days");
    for (const s of RESULT.steps) {
      expect(minuteOf(s.at)).toBeGreaterThan(days[0]);
      expect(minuteOf(s.ends)).toBeLessThan(days[1]);
    }
    const evening = spanOf(RESULT, "evening");
    expect(evening[0]).toBeGreaterThan(minuteOf("2026-11-28T12:00+00:00"));
    expect(evening[1]).toBeGreaterThan(minuteOf(RESULT.serve_at));
  });

  it("draws time from left to right, and minutes a px as it does", () => {
    const scale = scaleOf(spanOf(RESULT, "days"), 900, "days", "UTC");
    expect(scale.x(scale.from)).toBe(LEFT);
    expect(scale.x(scale.to)).toBe(900 - RIGHT);
    expect(scale.x(scale.from + 100 * scale.perPx) - LEFT).toBeCloseTo(100, 6);
    expect(scale.height).toBeGreaterThan(scale.floor);
    expect(LABEL_ROWS).toBeGreaterThan(1);
  });

  it("shows hands and dough of the days, every lane of the evening", () => {
    const keys = (zoom: "days" | "evening") =>
      stepsIn(RESULT, scaleOf(spanOf(RESULT, zoom), 900, zoom, "UTC")).map((s) => s.key);
    expect(keys("days")).toEqual(["mix", "ball"]);
    expect(keys("evening")).toEqual(["ball", "heat", "table_1"]);
  });

  it("writes midnights of the zone it is in", () => {
    const from = minuteOf("2026-11-26T18:00+00:00");
    const ticks = ticksOf(scaleOf([from, from + 48 * 60], 900, "days", "Asia/Kolkata"));
    const midnights = ticks.filter((t) => t.strong);
    expect(midnights.map((t) => t.text)).toEqual(["Fri 00:00", "Sat 00:00"]);
    expect((midnights[0]?.at ?? 0) - from).toBe(30);
  });
});

describe("names on the ribbon of the days", () => {
  // A small generator of its own, so that a failure can be found again.
  const draw = (seed: number) => () => {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    return seed / 2147483648;
  };

  it("never lie on each other, on the line of a mark, or on the serving line, over 300 ribbons", () => {
    for (let k = 1; k <= 300; k++) {
      const next = draw(k);
      const wide = 620 + next() * 700;
      const serve = LEFT + (0.3 + 0.6 * next()) * (wide - LEFT);
      const steps = Array.from({ length: 2 + Math.floor(next() * 14) }, (_, i) => ({
        ...step(`s${String(i)}`, "dough", "", ""),
        name: "a name of hands".slice(0, 3 + Math.floor(next() * 12)),
        px: LEFT + next() * (wide - RIGHT - LEFT),
      }));
      const at = (s: PlacedStep) => (s as unknown as { px: number }).px;
      const placed = inRows(steps as unknown as PlacedStep[], at, wide - RIGHT, [serve]);
      expect(placed).toHaveLength(steps.length);
      for (const one of placed) {
        expect(one.left + one.wide).toBeLessThanOrEqual(wide - RIGHT + 1e-6);
        const right = one.left === at(one.step);
        if (right)
          expect(serve > one.left && serve < one.left + one.wide, `wall, ribbon ${String(k)}`).toBe(false);
        for (const other of placed) {
          if (other === one) continue;
          const covers =
            other.row === one.row && other.left < one.left + one.wide && one.left < other.left + other.wide;
          expect(covers, `names, ribbon ${String(k)}`).toBe(false);
          const x = at(other.step);
          const crossed = other.row > one.row && x > one.left + 1e-6 && x < one.left + one.wide - 1e-6;
          expect(crossed, `line through a name, ribbon ${String(k)}`).toBe(false);
        }
      }
    }
  });
});

describe("the pizzas of a row", () => {
  const row = (...at: string[]) =>
    ({
      steps: at.map((t, i) => step(`table_${String(i + 1)}`, "table", `2026-11-28T${t}+00:00`, "")),
    }) as unknown as Result;

  it("come every so often, about so often, or alone", () => {
    expect(rowSaid(row("19:30"))).toBe("");
    expect(rowSaid(row("19:30", "19:42", "19:54"))).toBe(", then every 12 min");
    expect(rowSaid(row("19:30", "19:42", "19:58"))).toBe(", then about every 14 min");
  });
});

describe("the words of a supper", () => {
  it("offer nine days, and the one it is on however far", () => {
    const days = daysToChoose("2036-05-01T19:30", "UTC");
    expect(days[0]).toMatchObject({ value: "2036-05-01", label: "Thu 1 May" });
    expect(days).toHaveLength(10);
    expect(days.filter((d) => "note" in d)).toHaveLength(1);
    expect(dayName("2026-12-31T23:50")).toBe("Thu 31 Dec");
  });

  it("take an offer: local times, and yeast to be solved for when it is changed", () => {
    expect(taken({ serve_at: "2026-11-28T20:15+00:00", own_steps: null })).toEqual({
      serve_at: "2026-11-28T20:15",
    });
    expect(taken({ programme: "same_day", yeast_pct: null })).toEqual({
      programme: "same_day",
      yeast_pct: null,
      yeast: "solve",
    });
    expect(taken({ hours_give_way: true })).toEqual({ yeast: "keep" });
  });

  it("keep the dough's yeast in another programme, and the cook's own; without a dough it is worked out", () => {
    for (const key of ["own", "cold_1", "cold_2", "same_day"]) {
      expect(programmed(key, {}, true)).toEqual({ programme: key, yeast: "as_is" });
      expect(programmed(key, { yeast_pct: 0.3 }, true)).toEqual({ programme: key });
      expect(programmed(key, {}, false)).toEqual({
        programme: key,
        yeast: "solve",
        yeast_pct: null,
      });
    }
  });
});
