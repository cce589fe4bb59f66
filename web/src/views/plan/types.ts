import type { Schemas } from "../../api/client";

export type Sentence = Schemas["Sentence"];
export type Controls = Schemas["Controls"];
export type Preview = Schemas["PreviewOut"];
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

export function firstDraft(kitchen: Kitchen): Draft | null {
  const hearth = kitchen.hearths[0];
  const surface = kitchen.surfaces[0];
  const pan = kitchen.pans[0];
  if (!hearth || (!surface && !pan)) return null;
  return newDraft("home_oven_round", {
    hearth_id: hearth.id,
    surface_id: surface?.id ?? null,
    pan_id: surface ? null : (pan?.id ?? null),
  });
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
      deck_reading_c: null,
      serve_at: "19:30",
    },
    controls: null,
    name: "",
  };
}
