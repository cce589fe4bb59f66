import type { RiseStep } from "./types";

export const PLACES = [
  { place: "room", name: "room" },
  { place: "fridge", name: "fridge" },
  { place: "warm", name: "warm spot" },
  { place: "oven", name: "oven, light on" },
  { place: "freezer", name: "freezer" },
] as const;
export const STAGES = [
  { stage: "bulk", name: "as one" },
  { stage: "balls", name: "in balls" },
  { stage: "pan", name: "in the pan" },
] as const;
export const LEAST_H = 0.25;
export const LONGEST_H = 168;
export const ORDER = { bulk: 0, balls: 1, pan: 2 };

/** Hours on the lane's own raster. */
export function snapped(hours: number, total: number): number {
  const by = total > 30 ? 0.5 : 0.25;
  return Math.max(LEAST_H, Math.min(LONGEST_H, Math.round(hours / by) * by));
}

/** The steps with one border moved by so many hours: between two places, or the end. */
export function borderMoved(from: readonly RiseStep[], index: number, by: number): RiseStep[] {
  const here = from[index];
  const next = from[index + 1];
  if (!here) return [...from];
  const sum = from.reduce((all, s) => all + s.hours, 0);
  if (!next) return from.map((s, i) => (i === index ? { ...s, hours: snapped(s.hours + by, sum) } : s));
  // A border between two places moves; when the dough is eaten stays.
  const both = here.hours + next.hours;
  const hours = Math.max(LEAST_H, Math.min(both - LEAST_H, snapped(here.hours + by, sum)));
  return from.map((s, i) =>
    i === index ? { ...s, hours } : i === index + 1 ? { ...s, hours: both - hours } : s,
  );
}

/** The steps with one changed; what comes after cannot be less divided than what comes before. */
export function stepChanged(steps: readonly RiseStep[], index: number, to: Partial<RiseStep>): RiseStep[] {
  const next = steps.map((s, i) => (i === index ? { ...s, ...to } : s));
  const { stage } = to;
  if (!stage) return next;
  return next.map((s, i) =>
    (i > index && ORDER[s.stage ?? "bulk"] < ORDER[stage]) ||
    (i < index && ORDER[s.stage ?? "bulk"] > ORDER[stage])
      ? { ...s, stage }
      : s,
  );
}
