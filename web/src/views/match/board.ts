import type { Schemas } from "../../api/client";
import type { Reference } from "../../ui/crust";

export type Board = Schemas["BoardOut"];
export type Rig = Schemas["RigOut"];
export type Cell = Schemas["Cell"];
export type Style = Reference["styles"][number];

/** A column: a hearth with one thing the dough stands on, whatever that thing stands on itself. */
export interface Column {
  key: string;
  hearth: string;
  thing: string;
}

export interface Placed {
  cell: Cell;
  rig: Rig;
}

export interface Row {
  style: Style;
  /** By column; null where the combination makes no sense. */
  places: (Placed | null)[];
  best: Placed | null;
}

export const SORTS = ["in families", "best first", "quickest first"] as const;
export type Sort = (typeof SORTS)[number];

function columnKey(rig: Rig): string {
  return `h${String(rig.hearth_id)}${rig.pan_id === null ? `s${String(rig.surface_id)}` : `p${String(rig.pan_id)}`}`;
}

/** The board as it is drawn: the best of a pan's places in its one column. */
export function arrange(
  board: Board,
  styles: readonly Style[],
  sort: Sort,
): { columns: Column[]; rows: Row[] } {
  const columns: Column[] = [];
  for (const rig of board.rigs) {
    const key = columnKey(rig);
    if (!columns.some((c) => c.key === key))
      columns.push({ key, hearth: rig.hearth, thing: rig.support.split(" on ")[0] ?? rig.support });
  }
  const rigs = new Map(board.rigs.map((rig) => [rig.key, rig]));
  const rows: Row[] = [];
  for (const style of styles) {
    const places: (Placed | null)[] = columns.map(() => null);
    for (const cell of board.board?.cells ?? []) {
      const rig = rigs.get(cell.rig);
      if (cell.style !== style.key || !rig) continue;
      const at = columns.findIndex((c) => c.key === columnKey(rig));
      const was = places[at];
      if (!was || cell.score < was.cell.score) places[at] = { cell, rig };
    }
    const all = places.filter((p) => p !== null);
    if (all.length === 0) continue;
    const best = all.reduce((a, b) => (b.cell.score < a.cell.score ? b : a));
    rows.push({ style, places, best });
  }
  if (sort === "best first") rows.sort((a, b) => (a.best?.cell.score ?? 99) - (b.best?.cell.score ?? 99));
  if (sort === "quickest first")
    rows.sort((a, b) => (a.best?.cell.likely_done_s ?? 9e9) - (b.best?.cell.likely_done_s ?? 9e9));
  return { columns, rows };
}

/** The next place with a cell, walking from one in a direction; the same when there is none. */
export function step(
  rows: readonly Row[],
  from: { row: number; column: number },
  dRow: number,
  dColumn: number,
): { row: number; column: number } {
  let { row, column } = from;
  for (let i = 0; i < 60; i++) {
    row += dRow;
    column += dColumn;
    const places = rows[row]?.places;
    if (!places || column < 0 || column >= places.length) break;
    if (places[column]) return { row, column };
    // Up and down: the nearest cell of the next row.
    if (dRow !== 0) {
      const near = places
        .map((p, c) => ({ p, c }))
        .filter((x) => x.p !== null)
        .sort((a, b) => Math.abs(a.c - from.column) - Math.abs(b.c - from.column))[0];
      if (near) return { row, column: near.c };
    }
  }
  return from;
}
