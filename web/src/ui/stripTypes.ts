import type { Schemas } from "../api/client";

/** Height of a band, px. */
export const BAND_H = 22;

export interface Traces {
  t_s: number[];
  deck_c: number[];
  air_c: number[];
  base_c: number[];
  core_c: number[];
  base_l: number[];
  rim_l: number[];
  cheese_l: number[];
}

/** A moment of the crust: when the bake reaches it, where, how hot that is then, and why it matters. */
export type StripMoment = Schemas["Moment"];

export interface StripData {
  traces: Traces;
  moments: readonly StripMoment[];
  preheat: { t_s: number[]; deck_c: number[]; air_c: number[] };
  preheatMin: number;
  lookS: number;
  doneS: number;
  lateS: number;
  /** Clock time of the first launch, hh:mm. */
  launchClock: string;
  hasDeck: boolean;
}

/** Something to do at a moment of the bake. */
export interface Flag {
  key: string;
  name: string;
  atS: number;
  min: number;
  max: number;
  onMove: (atS: number) => void;
}
