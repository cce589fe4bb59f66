import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useUnits } from "../../ui/units";
import type { Entry } from "./book";

const SHOWN = 4;

/** The same once more with exactly one thing changed: what that would bring, and a plan of it. */
export function NextTime({ entry }: { entry: Entry }) {
  const units = useUnits();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const next = useQuery(server.nextTime(entry.id, entry.version));
  const plan = useMutation({
    mutationFn: (change: Schemas["OneChange"]) =>
      answer(
        client.POST("/api/plans", {
          body: {
            name: `${entry.name}, ${units.say(change.label)}`.slice(0, 80),
            sentence: entry.sentence,
            controls: change.controls,
          },
        }),
      ),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: server.plans.queryKey });
      void navigate(`/plan/${String(made.id)}`);
    },
  });
  if (!next.data) return null;
  const better = next.data.changes.filter((one) => one.nearer).slice(0, SHOWN);
  return (
    <section className="mt-5" aria-label="Change one thing next time">
      <h2 className="text-[20px] font-bold">Change one thing next time</h2>
      {better.length === 0 ? <p>As it was comes nearest: change nothing.</p> : null}
      {plan.isError ? (
        <p role="alert" className="text-brick">
          {plan.error.message}
        </p>
      ) : null}
      <ul>
        {better.map((one) => (
          <li
            key={one.label}
            className="flex flex-wrap items-center justify-between gap-x-4 border-t border-line py-2"
          >
            <span className="min-w-0">
              <span className="block text-[17px] font-semibold">{units.say(one.label)}</span>
              <span className="block">{units.say(one.effect)}</span>
            </span>
            {one.of !== "control" ? null : (
              <Button
                className="min-h-11 px-3"
                disabled={plan.isPending}
                aria-label={`Plan it: ${units.say(one.label)}`}
                onClick={() => {
                  plan.mutate(one);
                }}
              >
                Plan it
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
