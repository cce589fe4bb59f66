import type { Schemas } from "../../api/client";
import type { Listed } from "../../ui/styles";

export type Words = Listed<Schemas["SupperWords"]>;
export type Told = Listed<Schemas["SupperPreview"]>;
export type Result = Told["result"];
export type PlacedStep = Result["steps"][number];
export type SavedSupper = Listed<Schemas["SupperOut"]>;

/** What the cook is working on: kept in this browser until it is saved. */
export interface SupperDraft {
  name: string;
  words: Words;
}

export const LANES = ["dough", "hands", "hearth", "table"] as const;
