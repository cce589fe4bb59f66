import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { Trouble } from "../../app/Trouble";
import { useReference } from "../../ui/styles";
import { EmptyKitchen } from "../../app/EmptyKitchen";
import { PlanDesk } from "./PlanDesk";
import { firstDraft } from "./types";

/** Fetches what a plan is made from, then lays it out. */
export function PlanView() {
  const params = useParams();
  const planId = params.planId !== undefined ? Number(params.planId) : null;
  const session = useQuery(server.session);
  const reference = useReference();
  const kitchen = useQuery(server.kitchen);
  const rigs = useQuery(server.rigs);
  const saved = useQuery({
    ...server.plan(planId ?? 0),
    enabled: planId !== null,
  });
  const problem = reference.error ?? kitchen.error ?? rigs.error ?? (planId !== null ? saved.error : null);
  if (problem)
    return (
      <Trouble
        message={problem.message}
        fresh={{ path: "/plan", name: "A new plan" }}
        again={() => {
          reference.refetch();
          void kitchen.refetch();
          void rigs.refetch();
          if (planId !== null) void saved.refetch();
        }}
      />
    );
  if (!reference.data || !kitchen.data || !rigs.data || !session.data || (planId !== null && !saved.data))
    return <Skeleton />;
  const first = firstDraft(rigs.data);
  if (!first && planId === null) return <EmptyKitchen rigs={rigs.data} kitchen={kitchen.data} />;
  return (
    <PlanDesk
      key={String(planId)}
      owner={session.data.owner}
      reference={reference.data.reference}
      styles={reference.data.styles}
      kitchen={kitchen.data}
      rigs={rigs.data}
      saved={planId !== null ? (saved.data ?? null) : null}
      first={first}
    />
  );
}

/** The same drawing, empty. */
function Skeleton() {
  return (
    <main aria-busy="true" aria-label="Loading the plan" className="grid gap-3 p-5 waiting">
      <div className="h-20 w-2/3 bg-well" />
      <div className="grid gap-3 md:grid-cols-[540fr_318fr_280fr]">
        <div className="h-80 bg-well" />
        <div className="h-80 bg-panel" />
        <div className="h-80 bg-panel" />
      </div>
      <div className="h-72 bg-panel" />
    </main>
  );
}
