import { useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import type { useKeptDraft } from "../../ui/useKept";
import { useKeptSaving } from "../../ui/useKeptSaving";
import { asked, type DoughDraft, type SavedDough } from "./types";

export function draftOf(saved: SavedDough): DoughDraft {
  return { name: saved.name, dough: saved.dough, planId: saved.plan_id, mixedAt: saved.mixed_at };
}

/** Saving the dough on the desk; see useSaving. */
export function useDoughSaving(desk: {
  kept: ReturnType<typeof useKeptDraft<DoughDraft>>;
  saved: SavedDough | null;
  usual: string;
  title: string;
  held: boolean;
  /** The draft is put away, and what was being asked with it. */
  putAway: () => void;
}) {
  const queries = useQueryClient();
  return useKeptSaving<DoughDraft, SavedDough>({
    ...desk,
    path: (id) => `/dough/${String(id)}`,
    draftOf,
    write: (as, over) => {
      const dough = asked(as.dough);
      const body = { name: as.name || desk.usual, dough, plan_id: as.planId, mixed_at: as.mixedAt };
      if (!over) return answer(client.POST("/api/dough", { body }));
      const params = { path: { dough_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/dough/{dough_id}", { params, body }));
    },
    settle: (dough) => {
      queries.setQueryData(server.dough(dough.id).queryKey, dough);
      void queries.invalidateQueries({ queryKey: server.doughs.queryKey });
    },
  });
}
