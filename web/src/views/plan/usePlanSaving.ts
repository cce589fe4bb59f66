import { server } from "../../api/queries";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useSaving } from "../../ui/useSaving";
import type { Controls, Draft, SavedPlan } from "./types";
import { draftOf, type usePlanAnswer } from "./usePlanAnswer";

/** Saving the plan on the desk; see useSaving. */
export function usePlanSaving(
  desk: ReturnType<typeof usePlanAnswer>,
  saved: SavedPlan | null,
  controls: Controls | null,
  usual: string,
) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { draft } = desk;
  const settle = (plan: SavedPlan) => {
    queries.setQueryData(server.plan(plan.id).queryKey, plan);
    void queries.invalidateQueries({ queryKey: server.plans.queryKey });
  };
  return useSaving<Draft | null, SavedPlan>({
    draft: draft && { ...draft, controls },
    saved,
    touched: desk.kept !== null,
    began: desk.began,
    held: desk.refusal !== null || !draft || !controls,
    title: draft?.name || usual,
    named: (as, name) => as && { ...as, name },
    draftOf,
    write: (as, over) => {
      if (!as?.controls) throw new Error("nothing to save");
      const body = {
        sentence: as.sentence,
        controls: as.controls,
        name: as.name || usual,
        plan_id: saved?.id ?? null,
      };
      if (!over) return answer(client.POST("/api/plans", { body }));
      const params = { path: { plan_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/plans/{plan_id}", { params, body }));
    },
    onSaved: (plan) => {
      if (saved) desk.setDraft(null);
      else desk.leave();
      settle(plan);
      void navigate(`/plan/${String(plan.id)}`);
    },
    settle,
    putAway: () => {
      desk.setDraft(null);
    },
    takeBack: desk.setDraft,
  });
}
