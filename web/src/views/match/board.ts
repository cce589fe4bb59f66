import type { Schemas } from "../../api/client";
import type { StyleLine } from "../../ui/styles";

export type Board = Schemas["BoardOut"];
export type Rig = Schemas["RigOut"];
export type Cell = Schemas["Cell"];
export type Style = StyleLine;

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
  /** By column: why there is nothing there. */
  whys: string[];
  best: Placed | null;
}

export const SORTS = ["in families", "best first", "quickest first"] as const;
export type Sort = (typeof SORTS)[number];

function columnKey(rig: Rig): string {
  return `h${String(rig.hearth_id)}${rig.pan_id === null ? `s${String(rig.surface_id)}` : `p${String(rig.pan_id)}`}`;
}

/** Which of two cells comes nearer to its style: by the word, then by the crust. */
export function nearer(a: Cell, b: Cell): number {
  return a.rank - b.rank || a.score - b.score;
}

/** Minutes from heat on until `people` have eaten, one piece after another. */
export function servedMin(cell: Cell, people: number): number {
  const pieces = Math.max(1, Math.ceil(people / Math.max(0.3, cell.feeds)));
  return cell.first_min + (pieces - 1) * cell.next_min;
}

/** Part of the board: styles that stand on the same things. */
export interface Part {
  name: string;
  columns: Column[];
  rows: Row[];
}

/**
 * The board as it is drawn: what is shaped onto a deck or tray, then what is proofed in a pan, each
 * with the columns it needs; the best of a pan's places in its one column.
 */
export function arrange(
  board: Board,
  styles: readonly Style[],
  sort: Sort,
  hurry: { people: number; within: number } | null,
): Part[] {
  const rigs = new Map(board.rigs.map((rig) => [rig.key, rig]));
  const parts: Part[] = [];
  for (const [name, inPan] of [
    ["Shaped onto a deck or tray", false],
    ["Proofed in a pan", true],
  ] as const) {
    const here = styles.filter((s) => (s.shape === "pan") === inPan);
    const keys = new Set(here.map((s) => s.key));
    const cells = (board.board?.cells ?? []).filter((c) => keys.has(c.style));
    const columns = columnsOf(board.rigs.filter((rig) => cells.some((c) => c.rig === rig.key)));
    const rows: Row[] = [];
    for (const style of here) {
      const places: (Placed | null)[] = columns.map(() => null);
      for (const cell of cells) {
        const rig = rigs.get(cell.rig);
        if (cell.style !== style.key || !rig) continue;
        if (hurry && servedMin(cell, hurry.people) > hurry.within) continue;
        const at = columns.findIndex((c) => c.key === columnKey(rig));
        const was = places[at];
        if (!was || nearer(cell, was.cell) < 0) places[at] = { cell, rig };
      }
      const all = places.filter((p) => p !== null);
      if (all.length === 0) continue;
      const best = all.reduce((a, b) => (nearer(b.cell, a.cell) < 0 ? b : a));
      const whys = columns.map((c) => whyNot(board, rigs, style.key, c.key));
      rows.push({ style, places, whys, best });
    }
    if (sort === "best first") rows.sort((a, b) => (a.best && b.best ? nearer(a.best.cell, b.best.cell) : 0));
    if (sort === "quickest first")
      rows.sort((a, b) => (a.best?.cell.likely_done_s ?? 9e9) - (b.best?.cell.likely_done_s ?? 9e9));
    if (rows.length > 0) parts.push({ name, columns, rows });
  }
  return parts;
}

/** Why a style is not tried in a column. */
function whyNot(board: Board, rigs: ReadonlyMap<string, Rig>, style: string, column: string): string {
  const told = board.board?.left_out.find((one) => {
    const rig = rigs.get(one.rig);
    return one.style === style && rig !== undefined && columnKey(rig) === column;
  });
  return told?.why ?? "It would not be on the table in time.";
}

/** A column for each thing in each hearth. */
function columnsOf(rigs: readonly Rig[]): Column[] {
  const columns: Column[] = [];
  for (const rig of rigs) {
    const key = columnKey(rig);
    if (columns.some((c) => c.key === key)) continue;
    const own = rig.pan_id === null && rig.surface_id === null;
    const thing = own ? rig.support : (rig.support.split(" on ")[0] ?? "");
    columns.push({ key, hearth: rig.hearth, thing });
  }
  return columns;
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

/** Where a cell stands now; the best of the first style that has one, when it stands nowhere or none is chosen. */
export function placeOf(
  rows: readonly Row[],
  cell: { style: string; rig: string } | null,
): { row: number; column: number } {
  const row = rows.findIndex((r) => r.style.key === cell?.style);
  const column = rows[row]?.places.findIndex((p) => p?.rig.key === cell?.rig) ?? -1;
  if (column >= 0) return { row, column };
  const first = rows.findIndex((r) => r.best !== null);
  return { row: first, column: rows[first]?.places.findIndex((p) => p === rows[first]?.best) ?? 0 };
}
