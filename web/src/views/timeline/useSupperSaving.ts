import { server } from "../../api/queries";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import type { useKeptDraft } from "../../ui/useKept";
import { useSaving } from "../../ui/useSaving";
import type { SavedSupper, SupperDraft, Words } from "./types";
import { asQuestion } from "./useSupper";

function draftOf(saved: SavedSupper): SupperDraft {
  return { name: saved.name, words: saved.words as Words };
}

/** Saving the supper on the desk; see useSaving. */
export function useSupperSaving({
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
}: ReturnType<typeof useKeptDraft<SupperDraft>> & {
  saved: SavedSupper | null;
  usual: string;
  title: string;
  held: boolean;
}) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const settle = (row: SavedSupper) => {
    queries.setQueryData(server.supper(row.id).queryKey, row);
    for (const key of ["suppers", "next-step", "doughs", "dough"])
      void queries.invalidateQueries({ queryKey: [key] });
  };
  const saving = useSaving<SupperDraft, SavedSupper>({
    draft,
    saved,
    touched,
    began: version,
    held,
    title,
    named: (as, name) => ({ ...as, name }),
    draftOf,
    write: (as, over) => {
      const body = { ...asQuestion(as.words), name: as.name || usual };
      if (!over) return answer(client.POST("/api/timeline", { body }));
      const params = { path: { supper_id: over.id }, query: { version: over.version } };
      return answer(client.PUT("/api/timeline/{supper_id}", { params, body }));
    },
    onSaved: (row) => {
      if (saved) putAway();
      else leave();
      settle(row);
      void navigate(`/timeline/${String(row.id)}`);
    },
    settle,
    putAway,
    takeBack: (mine) => {
      change(() => mine);
    },
  });
  return { saving, settle };
}
