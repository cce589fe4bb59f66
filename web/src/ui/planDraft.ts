import type { Schemas } from "../api/client";
import type { StyleLine } from "./styles";

export type Sentence = Schemas["Sentence"];
export type Controls = Schemas["Controls"];

/** What the cook is working on: kept in this browser until it is saved. */
export interface Draft {
  sentence: Sentence;
  /** null lets Mattone choose. */
  controls: Controls | null;
  name: string;
}

/** A style on a rig, everything else as usual. */
export function newDraft(
  style: NonNullable<Sentence["style"]>,
  { hearth_id, surface_id, pan_id }: { hearth_id: number; surface_id: number | null; pan_id: number | null },
): Draft {
  return {
    sentence: {
      style,
      people: 2,
      hearth_id,
      surface_id,
      pan_id,
      base: null,
      rim: null,
      crumb: "even",
      topping: "normal",
      parchment: false,
      parchment_limit_c: 215,
      own_style_id: null,
      method: null,
      formula_free: false,
      deck_reading_c: null,
      serve_at: "19:30",
    },
    controls: null,
    name: "",
  };
}

/** The style a sentence speaks of: one of the cook's own before the known one. */
export function styleOf(
  sentence: { style?: string | undefined; own_style_id?: number | null | undefined } | undefined,
  styles: readonly StyleLine[],
): StyleLine | undefined {
  if (sentence?.own_style_id != null) return styles.find((s) => s.ownId === sentence.own_style_id);
  return styles.find((s) => s.key === sentence?.style);
}
