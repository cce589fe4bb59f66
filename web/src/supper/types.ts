import type { Schemas } from "../api/client";
import type { Controls, Sentence } from "../ui/planDraft";
import type { Listed } from "../ui/styles";

export type Words = Listed<Schemas["SupperWords"]>;
export type DoughInput = Listed<Schemas["DoughInput"]>;
export type SavedSupper = Listed<Schemas["SupperOut"]>;
export type Headline = Schemas["Headline"];

/** How it is baked. */
export interface PlanPart {
  sentence: Sentence;
  /** null lets Mattone choose. */
  controls: Controls | null;
}

/** Its dough: the name of the recipe it began from, the dough, and when this batch was mixed. */
export interface DoughPart {
  name: string;
  dough: DoughInput;
  mixedAt: string | null;
}

/** The supper a cook is working on, in whichever view: every part may be missing. Kept in this browser until it is saved. */
export interface SupperDraft {
  name: string;
  words: Words | null;
  dough: DoughPart | null;
  plan: PlanPart | null;
}

/** The views that edit a part of it. */
export type Part = "plan" | "dough" | "timeline";
