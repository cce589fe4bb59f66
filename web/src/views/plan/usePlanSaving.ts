import { useSupperSaving, type SupperAtHand } from "../../supper/useSupper";
import type { Controls } from "./types";
import type { usePlanAnswer } from "./usePlanAnswer";

/** Saving the supper at hand from its plan: by the controls that are shown. */
export function usePlanSaving(
  supper: SupperAtHand,
  desk: ReturnType<typeof usePlanAnswer>,
  controls: Controls | null,
) {
  const { draft } = desk;
  return useSupperSaving(supper, {
    part: "plan",
    held: desk.refusal !== null || !draft || !controls,
    lacks: supper.saved !== null && supper.saved.plan == null,
    whole: (as) =>
      draft && controls ? { ...as, plan: { sentence: (as.plan ?? draft).sentence, controls } } : as,
  }).saving;
}
