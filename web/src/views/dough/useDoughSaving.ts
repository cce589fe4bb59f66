import { server } from "../../api/queries";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import type { useKeptDraft } from "../../ui/useKept";
import { useSaving } from "../../ui/useSaving";
import { asked, type DoughDraft, type SavedDough } from "./types";

export function draftOf(saved: SavedDough): DoughDraft {
  return { name: saved.name, dough: saved.dough, planId: saved.plan_id, mixedAt: saved.mixed_at };
}

/** Saving the dough on the desk; see useSaving. */
export function useDoughSaving({
  draft,
  touched,
  change,
  putAway,
  leave,
  version,
  saved,
  usual,
  title,
  held,
  begin,
}: ReturnType<typeof useKeptDraft<DoughDraft>> & {
  saved: SavedDough | null;
  usual: string;
  title: string;
  held: boolean;
  /** The draft is put away, and what was being asked with it. */
  begin: () => void;
}) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const settle = (dough: SavedDough) => {
    queries.setQueryData(server.dough(dough.id).queryKey, dough);
    void queries.invalidateQueries({ queryKey: server.doughs.queryKey });
  };
  return useSaving<DoughDraft, SavedDough>({
    draft,
    saved,
    touched,
    began: version,
    held,
    title,
    named: (as, name) => ({ ...as, name }),
    draftOf,
    write: (as, over) => {
      const dough = asked(as.dough);
      const body = { name: as.name || usual, dough, plan_id: as.planId, mixed_at: as.mixedAt };
      if (!over) return answer(client.POST("/api/dough", { body }));
      const params = { path: { dough_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/dough/{dough_id}", { params, body }));
    },
    onSaved: (dough) => {
      if (saved) putAway();
      else leave();
      settle(dough);
      void navigate(`/dough/${String(dough.id)}`);
    },
    settle,
    putAway: begin,
    takeBack: (mine) => {
      change(() => mine);
    },
  });
}
