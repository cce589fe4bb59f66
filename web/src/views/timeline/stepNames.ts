import type { PlacedStep } from "./types";

const SHORT: Record<string, string> = {
  mix: "weigh, mix",
  ball: "ball",
  out: "out of the fridge",
  sauce: "sauce",
  prep: "toppings",
  feed: "feed the starter",
  poolish: "poolish",
  biga: "biga",
  paste: "scald the paste",
  pan: "into the pans",
  heat: "heat",
  top_on: "top on",
};

/** A step's name in a word or two. */
export function short(step: PlacedStep): string {
  return SHORT[step.key] ?? (step.key.startsWith("fold") ? "fold" : step.name.toLowerCase());
}

export function label(step: PlacedStep): string {
  const number = /_(\d+)$/.exec(step.key)?.[1];
  if (step.key.startsWith("launch_") || step.key.startsWith("table_")) return number ?? "";
  if (step.key.startsWith("shape_")) return "";
  return short(step);
}

/** Width of a mark's name, roughly. */
function nameWidth(step: PlacedStep): number {
  return (short(step).length + 6) * 6.7 + 12;
}

/**
 * Names of marks in rows without one covering another. A name stands right of its mark where there
 * is room, else left of it; the rows are so chosen that no mark's line crosses an earlier name.
 */
export function inRows(
  steps: readonly PlacedStep[],
  rows: number,
  at: (s: PlacedStep) => number,
  end: number,
) {
  const placed: { step: PlacedStep; row: number; left: number; wide: number }[] = [];
  const free = (row: number, left: number, wide: number) =>
    placed.every((p) => p.row !== row || p.left + p.wide < left || left + wide < p.left);
  const put = (step: PlacedStep, left: number, wide: number) => {
    const row = Array.from({ length: rows }, (_, i) => i).find((i) => free(i, left, wide)) ?? rows - 1;
    placed.push({ step, row, left, wide });
  };
  const roomy = (s: PlacedStep) => at(s) + nameWidth(s) <= end;
  // A name on the right must not lie under the line of a later mark whose own name is on the left.
  const fits = (s: PlacedStep) =>
    roomy(s) && !steps.some((o) => !roomy(o) && at(o) > at(s) && at(o) < at(s) + nameWidth(s));
  for (const s of steps.filter((one) => !fits(one))) put(s, at(s) - nameWidth(s), nameWidth(s));
  for (const s of steps.filter(fits).reverse()) put(s, at(s), nameWidth(s));
  return placed;
}
