import type { Schemas } from "../../api/client";
import type { StyleLine } from "../../ui/styles";

export type Sentence = Schemas["Sentence"];
export type Controls = Schemas["Controls"];
type Question = Omit<Schemas["PlanInput"], "own_style">;
/** An answered sentence. What an own style is made of does not matter here. */
export type Preview = Omit<Schemas["PreviewOut"], "ask"> & { ask: Question };
export type PlanResult = Schemas["PlanResult"];
export type Kitchen = Schemas["KitchenOut"];
export type SavedPlan = Schemas["PlanOut"];

/** What the cook is working on: kept in this browser until it is saved. */
export interface Draft {
  sentence: Sentence;
  /** null lets Mattone choose. */
  controls: Controls | null;
  name: string;
}

/** The style a sentence speaks of: one of the cook's own before the known one. */
export function styleOf(sentence: Sentence | undefined, styles: readonly StyleLine[]): StyleLine | undefined {
  if (sentence?.own_style_id != null) return styles.find((s) => s.ownId === sentence.own_style_id);
  return styles.find((s) => s.key === sentence?.style);
}

export type Rigs = Schemas["RigsOut"];

/** What to begin with; null where nothing bakes. */
export function firstDraft(rigs: Rigs): Draft | null {
  const rig = rigs.rigs.find((one) => one.key === rigs.first);
  if (!rig) return null;
  const { hearth_id, surface_id, pan_id } = rig;
  return newDraft(rig.usual_style, { hearth_id, surface_id, pan_id });
}

/** A style on a rig, everything else as usual. */
export function newDraft(
  style: NonNullable<Sentence["style"]>,
  rig: { hearth_id: number; surface_id: number | null; pan_id: number | null },
): Draft {
  return {
    sentence: {
      style,
      people: 2,
      ...rig,
      bottom: null,
      rim: null,
      crumb: "even",
      topping: "normal",
      parchment: false,
      own_style_id: null,
      dough_id: null,
      method: null,
      formula_free: false,
      deck_reading_c: null,
      serve_at: "19:30",
    },
    controls: null,
    name: "",
  };
}
