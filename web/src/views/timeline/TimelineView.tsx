import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "../../api/client";
import { Trouble } from "../../app/Trouble";
import { NEW, partPath } from "../../supper/draft";
import type { SavedSupper } from "../../supper/types";
import { useFirstWords } from "../../supper/useFirstWords";
import { useSupper } from "../../supper/useSupper";
import { useSupperPlace } from "../../supper/useSupperPlace";
import { useDoughReference, type DoughReference } from "../../ui/dough";
import { SupperDesk } from "./SupperDesk";

const FRESH = { path: partPath(NEW, "timeline"), name: "A new supper" };

/** Fetches what a supper is made from, then lays it out. */
export function TimelineView() {
  const place = useSupperPlace();
  const things = useDoughReference();
  const recipes = useQuery(server.doughs);
  const setups = useQuery(server.plans);
  const problem = things.error ?? recipes.error ?? setups.error ?? place.problem;
  if (problem)
    return (
      <Trouble
        fresh={FRESH}
        message={problem.message}
        again={() => {
          void things.refetch();
          void recipes.refetch();
          void setups.refetch();
          place.again();
        }}
      />
    );
  if (!things.data || !recipes.data || !setups.data || !place.ready || place.owner === null)
    return <Skeleton />;
  return (
    <Opened
      key={String(place.id)}
      owner={place.owner}
      saved={place.saved}
      things={things.data}
      recipes={recipes.data}
      setups={setups.data}
    />
  );
}

/** A supper without a date begins with the coming Saturday evening. */
function Opened({
  owner,
  saved,
  things,
  recipes,
  setups,
}: {
  owner: string;
  saved: SavedSupper | null;
  things: DoughReference;
  recipes: readonly Schemas["DoughLine"][];
  setups: readonly Schemas["PlanLine"][];
}) {
  const supper = useSupper(owner, saved);
  const { words, proposal, error, again } = useFirstWords(supper);
  const { propose } = supper;
  useEffect(() => {
    propose(proposal ? { words: proposal } : {});
  }, [propose, proposal]);
  if (error) return <Trouble fresh={FRESH} message={error.message} again={again} />;
  if (!words) return <Skeleton />;
  return <SupperDesk supper={supper} things={things} doughs={recipes} plans={setups} start={words} />;
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
