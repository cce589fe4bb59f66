import type { Line, Piece } from "./types";

/** How much of a kind of ingredient is usual, % of the flour. */
const USUAL: Record<string, number> = {
  liquid: 5,
  salt: 2,
  yeast: 0.2,
  starter: 20,
  fat: 2,
  sugar: 1,
  malt: 0.5,
  inclusion: 3,
};

const flourOf = (lines: readonly Line[], isFlour: (key: string) => boolean) =>
  lines.reduce((sum, line) => sum + (isFlour(line.ingredient) ? line.pct : 0), 0);

/** The lines with one more, as much as is usual; the first flour is all of the flour. */
export function withMore(
  lines: readonly Line[],
  thing: { key: string; role: string },
  isFlour: (key: string) => boolean,
): Line[] {
  if (lines.some((line) => line.ingredient === thing.key)) return [...lines];
  const pct = thing.role === "flour" ? Math.max(0, 100 - flourOf(lines, isFlour)) : (USUAL[thing.role] ?? 1);
  const one: Line = { ingredient: thing.key, pct, locked: false };
  // Flours stand first, as in any list.
  const at = thing.role === "flour" ? lines.filter((line) => isFlour(line.ingredient)).length : lines.length;
  return [...lines.slice(0, at), one, ...lines.slice(at)];
}

/** The lines without one; where it was a flour, the other flours take its place. */
export function without(
  lines: readonly Line[],
  ingredient: string,
  isFlour: (key: string) => boolean,
): Line[] {
  const rest = lines.filter((line) => line.ingredient !== ingredient);
  const [before, left] = [flourOf(lines, isFlour), flourOf(rest, isFlour)];
  if (!isFlour(ingredient) || left <= 0) return rest;
  return rest.map((line) => (isFlour(line.ingredient) ? { ...line, pct: (line.pct * before) / left } : line));
}

/** Mass of one piece, g: as said, or what fills its area at its loading. */
export function eachG(piece: Piece): number {
  return piece.mass_g ?? (piece.area_cm2 ?? 0) * (piece.loading_g_cm2 ?? 0);
}

/** The lines with one held that was not, or let go. */
export function held(lines: readonly Line[], ingredient: string): Line[] {
  return lines.map((line) =>
    line.ingredient === ingredient ? { ...line, locked: !(line.locked ?? false) } : line,
  );
}
