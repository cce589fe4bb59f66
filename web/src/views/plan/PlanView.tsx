import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Trouble } from "../../app/Trouble";
import { NEW, partPath } from "../../supper/draft";
import type { SavedSupper } from "../../supper/types";
import { useSupper } from "../../supper/useSupper";
import { useSupperPlace } from "../../supper/useSupperPlace";
import { useReference } from "../../ui/styles";
import { EmptyKitchen } from "../../app/EmptyKitchen";
import { PlanDesk } from "./PlanDesk";
import { firstDraft, type Kitchen, type Rigs } from "./types";

/** Fetches what a plan is made from, then lays it out. */
export function PlanView() {
  const place = useSupperPlace();
  const reference = useReference();
  const kitchen = useQuery(server.kitchen);
  const rigs = useQuery(server.rigs);
  const problem = reference.error ?? kitchen.error ?? rigs.error ?? place.problem;
  if (problem)
    return (
      <Trouble
        message={problem.message}
        fresh={{ path: partPath(NEW, "plan"), name: "A new supper" }}
        again={() => {
          reference.refetch();
          void kitchen.refetch();
          void rigs.refetch();
          place.again();
        }}
      />
    );
  if (!reference.data || !kitchen.data || !rigs.data || !place.ready || place.owner === null)
    return <Skeleton />;
  return (
    <Opened
      key={String(place.id)}
      owner={place.owner}
      saved={place.saved}
      reference={reference.data}
      kitchen={kitchen.data}
      rigs={rigs.data}
    />
  );
}

function Opened({
  owner,
  saved,
  reference,
  kitchen,
  rigs,
}: {
  owner: string;
  saved: SavedSupper | null;
  reference: NonNullable<ReturnType<typeof useReference>["data"]>;
  kitchen: Kitchen;
  rigs: Rigs;
}) {
  const first = firstDraft(rigs);
  const supper = useSupper(owner, saved, first && { sentence: first.sentence, controls: first.controls });
  if (!first && !supper.draft.plan) return <EmptyKitchen rigs={rigs} kitchen={kitchen} />;
  return (
    <PlanDesk
      supper={supper}
      reference={reference.reference}
      styles={reference.styles}
      kitchen={kitchen}
      rigs={rigs}
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
