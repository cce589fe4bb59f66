import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams, useSearchParams } from "react-router";
import { Trouble } from "../../app/Trouble";
import { useDoughReference } from "../../ui/dough";
import { answer, client } from "../../api/client";
import { useReference } from "../../ui/styles";
import { DoughDesk } from "./DoughDesk";

const FRESH = { path: "/dough/new", name: "A new dough" };

/** The dough last worked on; a new one where there is none. */
export function DoughDoor() {
  const doughs = useQuery(server.doughs);
  if (doughs.error)
    return <Trouble fresh={FRESH} message={doughs.error.message} again={() => void doughs.refetch()} />;
  if (!doughs.data) return <Skeleton />;
  const last = doughs.data[0];
  return <Navigate replace to={last ? `/dough/${String(last.id)}` : "/dough/new"} />;
}

/** Fetches what a dough is made from, then lays it out. */
export function DoughView() {
  const params = useParams();
  const [search] = useSearchParams();
  const doughId = params.doughId !== undefined && params.doughId !== "new" ? Number(params.doughId) : null;
  const planId = search.get("plan") !== null ? Number(search.get("plan")) : null;
  const session = useQuery(server.session);
  const reference = useReference();
  const things = useDoughReference();
  const kitchen = useQuery(server.kitchen);
  const plans = useQuery(server.plans);
  const saved = useQuery({
    ...server.dough(doughId ?? 0),
    enabled: doughId !== null,
  });
  const first = useQuery({
    queryKey: ["dough-start", planId],
    enabled: doughId === null,
    staleTime: Infinity,
    queryFn: () =>
      answer(
        client.POST("/api/dough/start", {
          body: {
            plan_id: planId,
            style: "home_oven_round",
            own_style_id: null,
            people: 4,
            programme: "cold_1",
          },
        }),
      ),
  });
  const problem =
    reference.error ??
    things.error ??
    kitchen.error ??
    plans.error ??
    (doughId !== null ? saved.error : first.error);
  if (problem)
    return (
      <Trouble
        fresh={FRESH}
        message={problem.message}
        again={() => {
          reference.refetch();
          void things.refetch();
          void kitchen.refetch();
          void plans.refetch();
          void (doughId !== null ? saved.refetch() : first.refetch());
        }}
      />
    );
  const start = doughId !== null ? saved.data?.dough : first.data;
  if (!reference.data || !things.data || !kitchen.data || !plans.data || !session.data || !start)
    return <Skeleton />;
  return (
    <DoughDesk
      key={`${String(doughId)} ${String(planId)}`}
      owner={session.data.owner}
      reference={reference.data.reference}
      styles={reference.data.styles}
      things={things.data}
      kitchen={kitchen.data}
      plans={plans.data}
      saved={doughId !== null ? (saved.data ?? null) : null}
      start={start}
      planId={planId}
    />
  );
}

/** The same drawing, empty. */
function Skeleton() {
  return (
    <main aria-busy="true" aria-label="Loading the dough" className="grid gap-3 p-5 waiting">
      <div className="h-16 w-2/3 bg-well" />
      <div className="grid gap-3 md:grid-cols-[440px_1fr]">
        <div className="h-96 bg-panel" />
        <div className="h-96 bg-panel" />
      </div>
      <div className="h-48 bg-panel" />
    </main>
  );
}
