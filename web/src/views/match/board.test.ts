import { describe, expect, it } from "vitest";
import { arrange, placeOf, servedMin, step, type Board, type Cell, type Rig, type Style } from "./board";

const rig = (
  key: string,
  hearth_id: number,
  surface_id: number | null,
  pan_id: number | null,
  support: string,
): Rig => ({
  key,
  hearth_id,
  surface_id,
  pan_id,
  hearth: `hearth ${String(hearth_id)}`,
  support,
  note: "",
  styles: [],
  own_styles: [],
  made_for: [],
  made_for_own: [],
  usual_style: "home_oven_round",
});
const RIGS = [
  rig("steel", 1, 1, null, "steel"),
  rig("pan", 1, null, 9, "pan"),
  rig("pan-on-steel", 1, 1, 9, "pan on steel"),
  rig("flame", 2, null, null, "its own floor"),
];
const cell = (style: string, on: string, score: number, s = 400): Cell =>
  ({
    style,
    rig: on,
    score,
    rank: 1,
    likely_done_s: s,
    word: "works",
    feeds: 1,
    first_min: 50,
    next_min: 10,
  }) as Cell;
const STYLES = [
  { key: "round", shape: "hand", family: "round", ownId: null },
  { key: "thin", shape: "rolled", family: "thin", ownId: null },
  { key: "tall", shape: "pan", family: "pan", ownId: null },
] as unknown as Style[];
const board = (...cells: Cell[]): Board =>
  ({
    rigs: RIGS,
    left_out: 0,
    waiting: 0,
    missing: "",
    not_standing: [],
    board: {
      styles: [],
      cells,
      left_out: [{ style: "thin", rig: "flame", why: "It wants an oven." }],
      engine: "x",
    },
  }) as unknown as Board;
const FULL = board(
  cell("round", "steel", 0.2, 380),
  cell("round", "flame", 1.0, 90),
  cell("thin", "steel", 0.1, 500),
  cell("tall", "pan", 2.0, 900),
  cell("tall", "pan-on-steel", 0.5, 800),
);

describe("the board", () => {
  it("keeps what is shaped apart from what is proofed in a pan", () => {
    const parts = arrange(FULL, STYLES, "in families", null);
    expect(parts.map((p) => [p.columns.map((c) => c.thing), p.rows.map((r) => r.style.key)])).toEqual([
      [
        ["steel", "its own floor"],
        ["round", "thin"],
      ],
      [["pan"], ["tall"]],
    ]);
  });

  it("shows the best of a pan's places in its one column", () => {
    const tall = arrange(FULL, STYLES, "in families", null)[1]?.rows[0];
    expect(tall?.places).toHaveLength(1);
    expect(tall?.best?.cell.rig).toBe("pan-on-steel");
  });

  it("puts a better word before a nearer crust", () => {
    const made = { ...cell("tall", "pan", 0.34), rank: 0 };
    const tall = arrange(board(made, cell("tall", "pan-on-steel", 0.05)), STYLES, "in families", null)[0]
      ?.rows[0];
    expect(tall?.best?.cell.rig).toBe("pan");
  });

  it("says why a place is empty", () => {
    const thin = arrange(FULL, STYLES, "in families", null)[0]?.rows[1];
    expect(thin?.places[1]).toBeNull();
    expect(thin?.whys[1]).toBe("It wants an oven.");
  });

  it("sorts by nearness and by haste", () => {
    const near = arrange(FULL, STYLES, "best first", null)[0]?.rows ?? [];
    expect(near.map((r) => r.style.key)).toEqual(["thin", "round"]);
    const quick = arrange(FULL, STYLES, "quickest first", null)[0]?.rows ?? [];
    const times = quick.map((r) => r.best?.cell.likely_done_s ?? 0);
    expect(times).toEqual([...times].sort((a, b) => a - b));
  });

  it("leaves out what would not be eaten in time, and rows with nothing left", () => {
    const one = cell("round", "steel", 0.2);
    expect(servedMin(one, 1)).toBe(50);
    expect(servedMin(one, 4)).toBe(80);
    expect(arrange(board(one), STYLES, "in families", { people: 4, within: 80 })).toHaveLength(1);
    expect(arrange(board(one), STYLES, "in families", { people: 4, within: 79 })).toEqual([]);
  });

  it("of slices not yet whole, and of nothing, is drawn as far as it goes", () => {
    expect(arrange(board(), STYLES, "in families", null)).toEqual([]);
    expect(arrange({ ...FULL, board: null }, STYLES, "in families", null)).toEqual([]);
    expect(arrange(board(cell("round", "gone", 1)), STYLES, "in families", null)).toEqual([]);
  });
});

describe("walking the board by key", () => {
  const rows = arrange(FULL, STYLES, "in families", null).flatMap((part) => part.rows);

  it("goes to the next cell, over gaps, and stays at an edge", () => {
    expect(step(rows, { row: 0, column: 0 }, 0, 1)).toEqual({ row: 0, column: 1 });
    expect(step(rows, { row: 0, column: 1 }, 0, 1)).toEqual({ row: 0, column: 1 });
    // Below the flame's column there is no cell: the nearest of the next row.
    expect(step(rows, { row: 0, column: 1 }, 1, 0)).toEqual({ row: 1, column: 0 });
    expect(step(rows, { row: 0, column: 0 }, -1, 0)).toEqual({ row: 0, column: 0 });
  });
});

describe("the chosen cell", () => {
  const rowsOf = (of: Board) => arrange(of, STYLES, "best first", null).flatMap((part) => part.rows);

  it("stays the one that was chosen while more rigs come in and places move", () => {
    const chosen = { style: "round", rig: "steel" };
    for (const some of [board(cell("round", "steel", 0.9)), FULL]) {
      const rows = rowsOf(some);
      const { row, column } = placeOf(rows, chosen);
      expect(rows[row]?.style.key).toBe("round");
      expect(rows[row]?.places[column]?.rig.key).toBe("steel");
    }
  });

  it("that is not there is the best of the first style, none of an empty board", () => {
    const rows = rowsOf(FULL);
    for (const gone of [null, { style: "round", rig: "sold" }, { style: "none", rig: "steel" }]) {
      const { row, column } = placeOf(rows, gone);
      expect(rows[row]?.places[column]).toBe(rows[row]?.best);
    }
    expect(placeOf([], null).row).toBe(-1);
  });
});
