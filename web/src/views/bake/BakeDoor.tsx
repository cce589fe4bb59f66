import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { bakeTime } from "../../ui/time";

/** Where a bake begins: those under way, and a saved plan whose heat goes on now; each hearth has one at a time. */
export function BakeDoor() {
  const underWay = useQuery({ ...server.underWay, staleTime: 0 });
  const plans = useQuery(server.plans);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const start = useMutation({
    mutationFn: (plan_id: number) =>
      answer(client.POST("/api/bakes", { body: { plan_id, heat_on_at: new Date().toISOString() } })),
    onSuccess: (bake) => {
      void queries.invalidateQueries({ queryKey: server.underWay.queryKey });
      void navigate(`/bake/${String(bake.id)}`);
    },
  });
  return (
    <main className="mx-auto max-w-3xl p-4 md:p-6">
      <h1 className="text-[28px] font-bold">Bake</h1>
      {(underWay.data ?? []).map((one) => (
        <Link
          key={one.id}
          className="press mt-3 flex min-h-16 items-center text-[20px]"
          to={`/bake/${String(one.id)}`}
        >
          Back to {one.name} in the {one.hearth}
        </Link>
      ))}
      <p className="mt-3 max-w-prose text-[16px]">
        Choose the plan you bake by. It is kept as it stands now, and Mattone stays with you: when the deck is
        ready, what to do next, and what to make of what you see.
      </p>
      {plans.data?.length === 0 ? (
        <p className="mt-4 text-[16px]">
          There is no saved plan yet.{" "}
          <Link className="text-air underline underline-offset-2" to="/plan">
            Make one
          </Link>{" "}
          and save it.
        </p>
      ) : null}
      <ul className="mt-4">
        {(plans.data ?? [])
          .filter((plan) => !plan.problem)
          .map((plan) => (
            <li
              key={plan.id}
              className="flex min-h-16 flex-wrap items-center justify-between gap-x-4 gap-y-2 border-t border-line py-3"
            >
              <span>
                <span className="block text-[18px] font-semibold">{plan.name}</span>
                <span className="text-ash">
                  on the {plan.support}, about {bakeTime(plan.likely_done_s)}
                </span>
              </span>
              <Button
                look="press"
                className="min-h-12 text-[17px]"
                disabled={start.isPending}
                aria-label={`Heat on now: ${plan.name}`}
                onClick={() => {
                  start.mutate(plan.id);
                }}
              >
                Heat on now
              </Button>
            </li>
          ))}
      </ul>
      {start.isError ? (
        <p role="alert" className="mt-3 text-[16px] text-brick">
          {start.error.message}
        </p>
      ) : null}
    </main>
  );
}
