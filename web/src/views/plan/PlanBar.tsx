import { answer, client } from "../../api/client";
import { readPlans } from "../../api/saved";
import { SavedMenu } from "../../app/SavedMenu";
import { bakeTime } from "../../ui/time";

/** Saved plans. */
export function PlansMenu({ openId }: { openId: number | null }) {
  return (
    <SavedMenu
      title="Plans"
      kind="plan"
      path="/plan"
      fresh="/plan"
      openId={openId}
      queryKey={["plans"]}
      read={readPlans}
      line={(plan) => ({
        id: plan.id,
        version: plan.version,
        problem: plan.problem,
        name: plan.name,
        note: plan.problem ? "" : `${plan.support}, ${bakeTime(plan.likely_done_s ?? 0)}`,
      })}
      remove={(plan_id, version) =>
        answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id }, query: { version } } }))
      }
      restore={(plan_id) =>
        answer(client.POST("/api/plans/{plan_id}/restore", { params: { path: { plan_id } } }))
      }
    />
  );
}
