import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams, useSearchParams } from "react-router";
import { Trouble } from "../../app/Trouble";
import { answer, client } from "../../api/client";
import { HERE } from "../../ui/time";
import { useDoughReference } from "../../ui/dough";
import { SupperDesk } from "./SupperDesk";

const FRESH = { path: "/timeline/new", name: "A new supper" };

/** The supper that comes next; a new one where there is none. */
export function TimelineDoor() {
  const suppers = useQuery(server.suppers);
  if (suppers.error)
    return <Trouble fresh={FRESH} message={suppers.error.message} again={() => void suppers.refetch()} />;
  if (!suppers.data) return <Skeleton />;
  const now = Date.now();
  const next =
    suppers.data.find((s) => new Date(s.serve_at).getTime() > now - 6 * 3_600_000) ?? suppers.data.at(-1);
  return <Navigate replace to={next ? `/timeline/${String(next.id)}` : "/timeline/new"} />;
}

/** Fetches what a supper is made from, then lays it out. */
export function TimelineView() {
  const params = useParams();
  const [search] = useSearchParams();
  const supperId =
    params.supperId !== undefined && params.supperId !== "new" ? Number(params.supperId) : null;
  const number = (name: string) => (search.get(name) !== null ? Number(search.get(name)) : null);
  const doughId = number("dough");
  const planId = number("plan");
  const session = useQuery(server.session);
  const things = useDoughReference();
  const doughs = useQuery(server.doughs);
  const plans = useQuery(server.plans);
  const saved = useQuery({
    ...server.supper(supperId ?? 0),
    enabled: supperId !== null,
  });
  const first = useQuery({
    queryKey: ["supper-start", doughId, planId],
    enabled: supperId === null,
    staleTime: Infinity,
    queryFn: () =>
      answer(
        client.POST("/api/timeline/start", { body: { dough_id: doughId, plan_id: planId, time_zone: HERE } }),
      ),
  });
  const problem =
    things.error ?? doughs.error ?? plans.error ?? (supperId !== null ? saved.error : first.error);
  if (problem)
    return (
      <Trouble
        fresh={FRESH}
        message={problem.message}
        again={() => {
          void things.refetch();
          void doughs.refetch();
          void plans.refetch();
          void (supperId !== null ? saved.refetch() : first.refetch());
        }}
      />
    );
  const start = supperId !== null ? saved.data?.words : first.data;
  if (!things.data || !doughs.data || !plans.data || !session.data || !start) return <Skeleton />;
  return (
    <SupperDesk
      key={`${String(supperId)} ${String(doughId)} ${String(planId)}`}
      owner={session.data.owner}
      things={things.data}
      doughs={doughs.data}
      plans={plans.data}
      saved={supperId !== null ? (saved.data ?? null) : null}
      start={start}
      place={supperId !== null ? String(supperId) : `new ${String(doughId ?? "")} ${String(planId ?? "")}`}
    />
  );
}

/** The same drawing, empty. */
function Skeleton() {
  return (
    <main aria-busy="true" aria-label="Loading the supper" className="grid gap-3 p-5 waiting">
      <div className="h-16 w-2/3 bg-well" />
      <div className="h-36 bg-panel" />
      <div className="h-52 bg-panel" />
      <div className="h-60 bg-panel" />
    </main>
  );
}
