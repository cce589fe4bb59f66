import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client } from "../api/client";
import { server } from "../api/queries";
import { useDebounced } from "../ui/useDebounced";
import { useKeptDraft } from "../ui/useKept";
import { useKeptSaving } from "../ui/useKeptSaving";
import { rememberSupper } from "./atHand";
import { asked, bakesAsSaved, draftKey, draftOf, EMPTY, NEW, partPath } from "./draft";
import { adoptOlderDrafts } from "./older";
import type { Headline, Part, PlanPart, SavedSupper, SupperDraft } from "./types";

/**
 * The supper at hand: one draft, whichever view edits it, and the line at the head of each. `plan`, and what a view proposes: what is
 * shown of a part that nobody has chosen yet; the line says it, the draft does not have it.
 */
export function useSupper(owner: string, saved: SavedSupper | null, plan: PlanPart | null = null) {
  const place = saved ? String(saved.id) : NEW;
  useState(() => {
    adoptOlderDrafts(owner, saved);
  });
  const kept = useKeptDraft<SupperDraft>(
    draftKey(owner, place),
    saved ? draftOf(saved) : EMPTY,
    saved?.version ?? null,
  );
  const { draft, touched } = kept;
  useEffect(() => {
    if (saved || touched) rememberSupper(place);
  }, [saved, touched, place]);
  const [proposed, propose] = useState<Partial<Pick<SupperDraft, "words" | "dough">>>({});
  // What is saved has what it has.
  const shown: SupperDraft = saved
    ? draft
    : {
        ...draft,
        plan: draft.plan ?? plan,
        words: draft.words ?? proposed.words ?? null,
        dough: draft.dough ?? proposed.dough ?? null,
      };
  const body = asked(shown, saved?.id ?? null);
  const line = useDebounced(body, JSON.stringify(body), 300);
  const lineNow = useQuery<Headline>({
    queryKey: ["headline", JSON.stringify(line)],
    enabled: touched || saved === null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => answer(client.POST("/api/timeline/headline", { body: line, signal })),
  });
  const headline = (saved && !touched ? null : lineNow.data) ?? saved?.headline ?? null;
  return {
    owner,
    place,
    saved,
    kept,
    draft,
    touched,
    change: kept.change,
    headline,
    shown,
    /** Whether there is anything of it: saved, or begun here. */
    begun: saved !== null || touched,
    propose,
    bakesAsSaved: bakesAsSaved(draft, saved),
    usual: usualName(headline),
  };
}

export type SupperAtHand = ReturnType<typeof useSupper>;

/** What a supper is called until its cook gives it a name. */
export function usualName(line: Headline | null): string {
  if (!line) return "Supper";
  const [what] = line.what.split(/[:,]/);
  return line.when === "No date yet"
    ? `${what ?? "Supper"}, ${line.where}`
    : `${what ?? "Supper"}, ${line.when.split(",")[0] ?? ""}`;
}

/**
 * Saving the supper at hand, whole, from one of its views. `whole`: with the part that this view shows, where nobody has touched it
 * yet. `lacks`: that part is not saved yet.
 */
export function useSupperSaving(
  supper: SupperAtHand,
  view: {
    part: Part;
    held: boolean;
    lacks: boolean;
    whole: (draft: SupperDraft) => SupperDraft;
    putAway?: () => void;
  },
) {
  const queries = useQueryClient();
  const { kept, saved, draft, usual } = supper;
  const settle = (row: SavedSupper) => {
    queries.setQueryData(server.supper(row.id).queryKey, row);
    for (const key of ["suppers", "next-step"]) void queries.invalidateQueries({ queryKey: [key] });
  };
  const saving = useKeptSaving<SupperDraft, SavedSupper>({
    kept,
    saved,
    touched: kept.touched || view.lacks,
    title: draft.name || usual,
    held: view.held,
    ...(view.putAway ? { putAway: view.putAway } : {}),
    path: (id) => partPath(id, view.part),
    draftOf,
    write: (as, over) => {
      const whole = view.whole(as);
      const body = { ...asked(whole, saved?.id ?? null), name: whole.name || usual };
      if (!over) return answer(client.POST("/api/timeline", { body }));
      const params = { path: { supper_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/timeline/{supper_id}", { params, body }));
    },
    settle,
  });
  return { saving, settle };
}
