import { useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import type { useKeptDraft } from "../../ui/useKept";
import { useKeptSaving } from "../../ui/useKeptSaving";
import type { SavedSupper, SupperDraft, Words } from "./types";
import { asQuestion } from "./useSupper";

function draftOf(saved: SavedSupper): SupperDraft {
  return { name: saved.name, words: saved.words as Words };
}

/** Saving the supper on the desk, see useSaving; and what is known anew of it without saving. */
export function useSupperSaving(desk: {
  kept: ReturnType<typeof useKeptDraft<SupperDraft>>;
  saved: SavedSupper | null;
  usual: string;
  title: string;
  held: boolean;
}) {
  const queries = useQueryClient();
  const settle = (row: SavedSupper) => {
    queries.setQueryData(server.supper(row.id).queryKey, row);
    for (const key of ["suppers", "next-step", "doughs", "dough"])
      void queries.invalidateQueries({ queryKey: [key] });
  };
  const saving = useKeptSaving<SupperDraft, SavedSupper>({
    ...desk,
    path: (id) => `/timeline/${String(id)}`,
    draftOf,
    write: (as, over) => {
      const body = { ...asQuestion(as.words), name: as.name || desk.usual };
      if (!over) return answer(client.POST("/api/timeline", { body }));
      const params = { path: { supper_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/timeline/{supper_id}", { params, body }));
    },
    settle,
  });
  return { saving, settle };
}
