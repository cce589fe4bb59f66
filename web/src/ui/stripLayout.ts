import { inLanes } from "./lanes";
import { BAND_H, type Flag, type StripData, type StripMoment } from "./stripTypes";
import { LEFT, PLOT, stripScale, type StripScale } from "./stripScale";
import { bakeTime } from "./time";

export const FLAG_H = 26;
export const MARK_H = 17;
/** A label may stand out so far beyond the last moment, px. */
const BEYOND = 14;
/** Between two bands. */
const GAP = 4;
/** Under the last lane of flags: the pull's tag. */
const PULL_H = 28;
const FLAGS_FROM = 9;
/** Something told under the curves at its moment: an end of the window, or a moment of the crust. */
export interface Mark {
  key: string;
  name: string;
  at: number;
  wide: number;
  moment: StripMoment | null;
}

export interface Placed {
  lane: number;
  left: number;
}

/**
 * Where everything of the strip lies: no label on another, on a line of another, or on the likely pull's.
 * It does not hang on the moment that is shown: a pull that is dragged passes behind the labels.
 */
export function stripLayout(data: StripData, flags: readonly Flag[], width: number) {
  const scale = stripScale(data, width);
  const pull = scale.x(data.doneS);
  const edge = scale.right + BEYOND;
  const told = marksOf(data, scale);
  const flown = flags.map((flag) => ({
    flag,
    at: flag.atS < 0 ? scale.pre(flag.atS) : scale.x(Math.min(flag.atS, scale.end)),
    wide: flag.name.length * 6.9 + 14,
  }));
  const marks = inLanes(told, edge, [pull], LEFT).map(({ mark, ...place }) => ({ ...mark, ...place }));
  const flying = inLanes(flown, edge, [pull], LEFT).map(({ mark, ...place }) => ({ ...mark, ...place }));
  const lanes = (row: readonly Placed[]) => 1 + Math.max(0, ...row.map((one) => one.lane));
  const top = PLOT.bottom + 8 + lanes(marks) * MARK_H;
  const bandY = (i: number) => top + i * (BAND_H + GAP);
  const bandsEnd = bandY(2) + BAND_H;
  return {
    scale,
    bandY,
    bandsEnd,
    marks,
    flags: flying,
    /** Lines of flags, that run across the bands. */
    lines: flown.map((one) => one.at),
    flagY: (lane: number) => bandsEnd + FLAGS_FROM + lane * FLAG_H,
    height: bandsEnd + FLAGS_FROM + lanes(flying) * FLAG_H + PULL_H,
  };
}

export function markY(lane: number): number {
  return PLOT.bottom + 4 + lane * MARK_H;
}

function marksOf(data: StripData, scale: StripScale): Mark[] {
  const mark = (key: string, name: string, s: number, moment: StripMoment | null): Mark => ({
    key,
    name,
    at: s < 0 ? Math.max(LEFT, scale.pre(s)) : scale.x(s),
    wide: name.length * 6.7 + 14,
    moment,
  });
  return [
    mark("look", `look from ${bakeTime(data.lookS)}`, data.lookS, null),
    ...(data.lateS <= scale.end ? [mark("late", `latest ${bakeTime(data.lateS)}`, data.lateS, null)] : []),
    ...scale.moments.map((m) => mark(m.key, m.name, m.at_s, m)),
  ];
}

/** Where a word so wide stands on its span without a line through it; null: it finds no room. */
export function clearOf(lines: readonly number[], from: number, to: number, wide: number): number | null {
  const starts = [from + 6, ...lines.filter((at) => at > from && at < to).map((at) => at + 5)].sort(
    (a, b) => a - b,
  );
  return (
    starts.find((left) => left + wide <= to && !lines.some((at) => at > left - 4 && at < left + wide + 4)) ??
    null
  );
}
