import type { Schemas } from "../../api/client";
import { newDraft, type Controls, type Draft, type Sentence } from "../../ui/planDraft";
import type { Listed } from "../../ui/styles";

export { newDraft, type Controls, type Draft, type Sentence };

type Question = Omit<Schemas["PlanInput"], "own_style">;
/** An answered sentence. What an own style is made of does not matter here. */
export type Preview = Omit<Schemas["PreviewOut"], "ask"> & { ask: Question };
export type PlanResult = Schemas["PlanResult"];
export type Kitchen = Schemas["KitchenOut"];
export type SavedPlan = Listed<Schemas["PlanOut"]>;

export type Rigs = Schemas["RigsOut"];

/** What to begin with; null where nothing bakes. */
export function firstDraft(rigs: Rigs): Draft | null {
  const rig = rigs.rigs.find((one) => one.key === rigs.first);
  if (!rig) return null;
  const { hearth_id, surface_id, pan_id } = rig;
  return newDraft(rig.usual_style, { hearth_id, surface_id, pan_id });
}
