import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Trouble } from "../../app/Trouble";
import { useDoughReference, type DoughReference } from "../../ui/dough";
import { answer, client } from "../../api/client";
import { NEW, partPath } from "../../supper/draft";
import type { DoughInput, SavedSupper } from "../../supper/types";
import { useSupper } from "../../supper/useSupper";
import { useSupperPlace } from "../../supper/useSupperPlace";
import { useReference } from "../../ui/styles";
import { DoughDesk } from "./DoughDesk";
import type { Kitchen } from "./types";

const FRESH = { path: partPath(NEW, "dough"), name: "A new supper" };

/** Fetches what a dough is made from, then lays it out. */
export function DoughView() {
  const place = useSupperPlace();
  const reference = useReference();
  const things = useDoughReference();
  const kitchen = useQuery(server.kitchen);
  const problem = reference.error ?? things.error ?? kitchen.error ?? place.problem;
  if (problem)
    return (
      <Trouble
        fresh={FRESH}
        message={problem.message}
        again={() => {
          reference.refetch();
          void things.refetch();
          void kitchen.refetch();
          place.again();
        }}
      />
    );
  if (!reference.data || !things.data || !kitchen.data || !place.ready || place.owner === null)
    return <Skeleton />;
  return (
    <Opened
      key={String(place.id)}
      owner={place.owner}
      saved={place.saved}
      reference={reference.data}
      things={things.data}
      kitchen={kitchen.data}
    />
  );
}

/** A supper without a dough begins with the one that its plan wants, or a usual one. */
function Opened({
  owner,
  saved,
  reference,
  things,
  kitchen,
}: {
  owner: string;
  saved: SavedSupper | null;
  reference: NonNullable<ReturnType<typeof useReference>["data"]>;
  things: DoughReference;
  kitchen: Kitchen;
}) {
  const supper = useSupper(owner, saved);
  const { plan, dough } = supper.draft;
  const first = useQuery({
    queryKey: ["dough-start", JSON.stringify(plan)],
    enabled: dough === null,
    staleTime: Infinity,
    queryFn: () =>
      answer(
        client.POST("/api/dough/start", {
          body: {
            plan: plan && { ...plan, plan_id: saved?.plan?.id ?? null, dough: null },
            style: "home_oven_round",
            own_style_id: null,
            people: 4,
            programme: "cold_1",
          },
        }),
      ),
  });
  const { propose } = supper;
  const proposal = dough === null ? first.data : undefined;
  useEffect(() => {
    propose(proposal ? { dough: { name: "", dough: proposal as DoughInput, mixedAt: null } } : {});
  }, [propose, proposal]);
  const start = dough ? dough.dough : (first.data as DoughInput | undefined);
  if (dough === null && first.error)
    return <Trouble fresh={FRESH} message={first.error.message} again={() => void first.refetch()} />;
  if (!start) return <Skeleton />;
  return (
    <DoughDesk
      supper={supper}
      reference={reference.reference}
      styles={reference.styles}
      things={things}
      kitchen={kitchen}
      start={start}
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
