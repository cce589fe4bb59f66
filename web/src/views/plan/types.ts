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

/** Hearths without a dial. */
export const FIRES: readonly string[] = ["flame_oven", "gas_grill", "charcoal_grill"];

/** The style a sentence speaks of: one of the cook's own before the known one. */
export function styleOf(sentence: Sentence | undefined, styles: readonly StyleLine[]): StyleLine | undefined {
  if (sentence?.own_style_id != null) return styles.find((s) => s.ownId === sentence.own_style_id);
  return styles.find((s) => s.key === sentence?.style);
}

export type Rigs = Schemas["RigsOut"];

/** The style a hearth or a pan by itself speaks of. */
const HEARTH_STYLE: Record<string, NonNullable<Sentence["style"]>> = {
  flame_oven: "neapolitan",
  gas_grill: "grilled",
  charcoal_grill: "grilled",
};
const PAN_STYLE: Record<string, NonNullable<Sentence["style"]>> = {
  cast_iron: "cast_iron_pan",
  dark_aluminium: "tall_square_pan",
  blue_steel: "roman_tray",
  bright_aluminium: "grandma",
};

/** What to begin with: an oven's deck before its pan, an oven before a fire; null where nothing bakes. */
export function firstDraft(kitchen: Kitchen, rigs: Rigs): Draft | null {
  const kind = (id: number) => kitchen.hearths.find((h) => h.id === id)?.kind ?? "";
  const ranked = rigs.rigs
    .map((rig) => ({
      rig,
      rank:
        (FIRES.includes(kind(rig.hearth_id)) ? 4 : 0) +
        (rig.pan_id === null ? 0 : rig.surface_id === null ? 1 : 2),
    }))
    .sort((a, b) => a.rank - b.rank);
  const rig = ranked[0]?.rig;
  if (!rig) return null;
  const pan = kitchen.pans.find((p) => p.id === rig.pan_id)?.kind ?? "";
  const style = HEARTH_STYLE[kind(rig.hearth_id)] ?? PAN_STYLE[pan] ?? "home_oven_round";
  return newDraft(style, { hearth_id: rig.hearth_id, surface_id: rig.surface_id, pan_id: rig.pan_id });
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
