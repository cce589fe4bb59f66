import { answer, client } from "../../api/client";
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
      read={() => answer(client.GET("/api/plans"))}
      line={(plan) => ({
        id: plan.id,
        name: plan.name,
        note: `${plan.support}, ${bakeTime(plan.likely_done_s)}`,
      })}
      remove={(plan_id) => answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id } } }))}
      restore={(plan_id) =>
        answer(client.POST("/api/plans/{plan_id}/restore", { params: { path: { plan_id } } }))
      }
    />
  );
}
