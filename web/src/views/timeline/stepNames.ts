import { pizzaOf } from "../../ui/supperSteps";
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
  relax: "into the corners",
  heat: "heat",
  top_on: "top on",
};

/** A step's name in a word or two. */
export function short(step: PlacedStep): string {
  const lot = /^lot_/.test(step.key) ? step.name.replace("Out of the fridge: ", "") + " out" : "";
  return SHORT[step.key] ?? (lot || (step.key.startsWith("fold") ? "fold" : step.name.toLowerCase()));
}

export function label(step: PlacedStep): string {
  const number = /_(\d+)$/.exec(step.key)?.[1];
  if (/^(launch|table|hob)_/.test(step.key)) return number ?? "";
  if (pizzaOf(step.key)) return "";
  return short(step);
}

/** Width of a mark's name, roughly. */
function nameWidth(step: PlacedStep): number {
  return (short(step).length + 6) * 6.7 + 12;
}

/**
 * Names of marks in rows without one covering another, as many rows as that takes. A name stands right
 * of its mark where there is room and no wall, else left of it; the rows are so chosen that no mark's
 * line crosses another's name.
 */
export function inRows(
  steps: readonly PlacedStep[],
  at: (s: PlacedStep) => number,
  end: number,
  walls: readonly number[] = [],
) {
  const inOrder = [...steps].sort((a, b) => at(a) - at(b));
  const covers = (left: number, wide: number, x: number) => x > left && x < left + wide;
  // On the left stands what has no room, and what would lie under the line of one that stands there.
  const onLeft = new Set(
    inOrder.filter((s) => at(s) + nameWidth(s) > end || walls.some((w) => covers(at(s), nameWidth(s), w))),
  );
  for (let before = -1; before !== onLeft.size;) {
    before = onLeft.size;
    for (const s of inOrder) if ([...onLeft].some((o) => covers(at(s), nameWidth(s), at(o)))) onLeft.add(s);
  }
  const placed: { step: PlacedStep; row: number; left: number; wide: number }[] = [];
  const put = (step: PlacedStep, left: number, wide: number) => {
    // Under every mark it passes, in the first row that is free there.
    let row = Math.max(-1, ...placed.filter((p) => covers(left, wide, at(p.step))).map((p) => p.row)) + 1;
    const taken = (r: number) =>
      placed.some((p) => p.row === r && p.left < left + wide && left < p.left + p.wide);
    while (taken(row)) row += 1;
    placed.push({ step, row, left, wide });
  };
  for (const s of inOrder.filter((one) => !onLeft.has(one)).reverse()) put(s, at(s), nameWidth(s));
  for (const s of inOrder.filter((one) => onLeft.has(one))) put(s, at(s) - nameWidth(s), nameWidth(s));
  return placed;
}
