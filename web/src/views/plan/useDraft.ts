import { useKept } from "../../ui/useKept";
import { draftKey, type Draft } from "../../ui/planDraft";

/** The cook's draft for one plan (or a new one), kept over a reload. null: nothing was changed yet. */
export function useDraft(owner: string, planId: number | null, version: number | null) {
  const [kept, keep, leave, began] = useKept<Draft>(draftKey(owner, planId), version);
  // What an older page kept there may be no draft at all.
  return [kept && typeof kept.sentence === "object" ? kept : null, keep, leave, began] as const;
}
