import { inLanes } from "../../ui/lanes";
import { pizzaOf } from "../../ui/supperSteps";
import type { PlacedStep } from "./types";

const SHORT: Record<string, string> = {
  mix: "weigh, mix",
  ball: "ball",
  out: "out of the fridge",
  sauce: "sauce",
  sauce_off: "sauce off",
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

/** Names of marks in rows without one covering another, another's line, or a wall. */
export function inRows(
  steps: readonly PlacedStep[],
  at: (s: PlacedStep) => number,
  end: number,
  walls: readonly number[] = [],
) {
  const marks = steps.map((step) => ({ step, at: at(step), wide: nameWidth(step) }));
  return inLanes(marks, end, walls).map(({ mark, lane, left }) => ({
    step: mark.step,
    row: lane,
    left,
    wide: mark.wide,
  }));
}
