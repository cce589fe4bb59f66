import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useUndo } from "../../app/Undo";
import { bakeTime } from "../../ui/time";

/** Saved plans: open one, delete one, take the deletion back. */
export function PlansMenu({ openId }: { openId: number | null }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const offer = useUndo();
  const plans = useQuery({ queryKey: ["plans"], queryFn: () => answer(client.GET("/api/plans")) });
  const refresh = () => queries.invalidateQueries({ queryKey: ["plans"] });
  const remove = useMutation({
    mutationFn: (plan: { id: number; name: string }) =>
      answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id: plan.id } } })),
    onSuccess: (_, plan) => {
      offer({
        text: `“${plan.name}” is deleted.`,
        undo: () => {
          restore.mutate(plan.id);
        },
      });
      void refresh();
      if (plan.id === openId) void navigate("/plan");
    },
  });
  const restore = useMutation({
    mutationFn: (id: number) =>
      answer(client.POST("/api/plans/{plan_id}/restore", { params: { path: { plan_id: id } } })),
    onSuccess: () => {
      void refresh();
    },
  });
  const problem = remove.error ?? restore.error;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="quiet">Plans</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label="Saved plans" align="end" sideOffset={6} className="leaf z-20 w-80 p-3">
          <button
            type="button"
            className="mb-2 w-full px-2 py-1.5 text-left font-semibold text-air hover:bg-brick-wash"
            onClick={() => {
              setOpen(false);
              void navigate("/plan");
            }}
          >
            A new plan
          </button>
          {plans.data?.length === 0 ? (
            <p className="px-2 text-ash">Nothing saved yet. Set a plan, then press Save.</p>
          ) : null}
          <ul>
            {plans.data?.map((plan) => (
              <li key={plan.id} className="flex items-baseline gap-2 border-t border-line">
                <button
                  type="button"
                  className={`min-w-0 flex-1 px-2 py-2 text-left hover:bg-brick-wash ${plan.id === openId ? "font-bold" : ""}`}
                  onClick={() => {
                    setOpen(false);
                    void navigate(`/plan/${String(plan.id)}`);
                  }}
                >
                  {plan.name}
                  <span className="block text-[13px] font-normal text-ash">
                    {plan.support}, {bakeTime(plan.likely_done_s)}
                  </span>
                </button>
                <button
                  type="button"
                  aria-label={`Delete ${plan.name}`}
                  className="px-2 py-1 text-[13px] text-brick underline underline-offset-2"
                  onClick={() => {
                    remove.mutate(plan);
                  }}
                >
                  delete
                </button>
              </li>
            ))}
          </ul>
          {problem ? (
            <p role="alert" className="mt-2 px-2 text-brick">
              {problem.message}
            </p>
          ) : null}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
