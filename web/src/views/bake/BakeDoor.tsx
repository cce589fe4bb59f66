import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import { DamagedRow } from "../../app/DamagedRow";
import { useStartBake, type Start } from "../../app/useStartBake";
import { Button } from "../../ui/Button";
import { bakeTime, dayAndClock } from "../../ui/time";
import { BakingNow } from "./BakingNow";

const AGO = [0, 10, 20, 30, 45, 60];

/** Where a bake begins: those under way, a supper with all its pizzas, a saved plan, or nothing planned; one a hearth at a time. */
export function BakeDoor() {
  const underWay = useQuery({ ...server.underWay, staleTime: 0 });
  const plans = useQuery(server.plans);
  const suppers = useQuery(server.suppers);
  const start = useStartBake();
  const [pizzas, setPizzas] = useState(0);
  const [minutesAgo, setMinutesAgo] = useState(0);
  const [together, setTogether] = useState(0);
  const begin = (from: Start) => {
    start.mutate({ ...from, pizzas: pizzas || null, together: together || null, minutesAgo });
  };
  return (
    <main className="mx-auto max-w-3xl p-4 md:p-6">
      <h1 className="text-[28px] font-bold">Bake</h1>
      {(underWay.data ?? []).map((one) =>
        one.problem ? (
          <DamagedRow
            key={one.id}
            name={one.name}
            problem={one.problem}
            remove={() =>
              answer(
                client.DELETE("/api/bakes/{bake_id}", {
                  params: { path: { bake_id: one.id }, query: { version: one.version } },
                }),
              ).then(() => underWay.refetch())
            }
            restore={() =>
              answer(
                client.POST("/api/bakes/{bake_id}/restore", { params: { path: { bake_id: one.id } } }),
              ).then(() => underWay.refetch())
            }
          />
        ) : (
          <Link
            key={one.id}
            className="press mt-3 flex min-h-16 items-center text-[20px]"
            to={`/bake/${String(one.id)}`}
          >
            Back to {one.name} in the {one.hearth}
          </Link>
        ),
      )}
      <p className="mt-3 max-w-prose text-[16px]">
        Choose what you bake by. It is kept as it stands now, and Mattone stays with you: when the deck is
        ready, what to do next, and what to make of what you see.
      </p>
      <div className="mt-3 flex flex-wrap gap-x-5 gap-y-2 text-[16px]">
        <Choice label="The heat is on" value={minutesAgo} change={setMinutesAgo}>
          {AGO.map((minutes) => (
            <option key={minutes} value={minutes}>
              {minutes === 0 ? "from now" : `for ${String(minutes)} min`}
            </option>
          ))}
        </Choice>
        <Choice label="Pizzas" value={pizzas} change={setPizzas}>
          <option value={0}>as planned</option>
          {Array.from({ length: 12 }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </Choice>
        <Choice label="In at once" value={together} change={setTogether}>
          <option value={0}>as planned</option>
          <option value={1}>one</option>
          <option value={2}>two trays</option>
        </Choice>
      </div>
      {start.isError ? (
        <p role="alert" className="mt-3 text-[16px] text-brick">
          {start.error.message}
        </p>
      ) : null}
      {plans.data?.length === 0 && !suppers.data?.some((one) => one.baked) ? (
        <p className="mt-4 text-[16px]">
          Nothing is planned yet.{" "}
          <Link className="text-air underline underline-offset-2" to="/plan">
            Plan a supper
          </Link>{" "}
          and save it, or bake at once, below.
        </p>
      ) : null}
      <ul className="mt-4">
        {(suppers.data ?? [])
          .filter((supper) => supper.baked)
          .map((supper) => (
            <Line
              key={`supper ${String(supper.id)}`}
              name={supper.name}
              about={
                supper.serve_at
                  ? `the supper of ${dayAndClock(supper.serve_at)}, all its pizzas in order`
                  : "a supper without a date, all its pizzas in order"
              }
              pending={start.isPending}
              begin={() => {
                begin({ supper_id: supper.id });
              }}
            />
          ))}
        {(plans.data ?? [])
          .filter((plan) => !plan.problem)
          .map((plan) => (
            <Line
              key={plan.id}
              name={plan.name}
              about={`on the ${plan.support}, about ${bakeTime(plan.likely_done_s)}`}
              pending={start.isPending}
              begin={() => {
                begin({ plan_id: plan.id });
              }}
            />
          ))}
      </ul>
      <BakingNow pending={start.isPending} start={begin} />
    </main>
  );
}

function Choice({
  label,
  value,
  change,
  children,
}: {
  label: string;
  value: number;
  change: (value: number) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex items-center gap-2">
      {label}
      <select
        className="min-h-11 border border-line bg-panel px-2 text-[16px]"
        value={value}
        onChange={(e) => {
          change(Number(e.target.value));
        }}
      >
        {children}
      </select>
    </label>
  );
}

function Line({
  name,
  about,
  pending,
  begin,
}: {
  name: string;
  about: string;
  pending: boolean;
  begin: () => void;
}) {
  return (
    <li className="flex min-h-16 flex-wrap items-center justify-between gap-x-4 gap-y-2 border-t border-line py-3">
      <span>
        <span className="block text-[18px] font-semibold">{name}</span>
        <span className="text-ash">{about}</span>
      </span>
      <Button
        look="press"
        className="min-h-12 text-[17px]"
        disabled={pending}
        aria-label={`Heat on now: ${name}`}
        onClick={begin}
      >
        Heat on now
      </Button>
    </li>
  );
}
