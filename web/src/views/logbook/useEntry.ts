import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, Refusal } from "../../api/client";
import { server } from "../../api/queries";
import { useUndo } from "../../app/Undo";
import { useKeptDraft } from "../../ui/useKept";
import { correcting, type Correct, type Entry } from "./book";

/** An entry being corrected: kept in this browser until it is saved, never over what another window said unseen. */
export function useEntry(entry: Entry) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const offer = useUndo();
  const { draft, touched, change, putAway, version } = useKeptDraft<Correct>(
    `logbook-entry-${String(entry.id)}`,
    correcting(entry),
    entry.version,
  );
  const [conflict, setConflict] = useState<number | null>(null);
  const put = useMutation({
    mutationFn: ({ body, over }: { body: Correct; over: number }) =>
      answer(
        client.PUT("/api/logbook/{entry_id}", {
          params: { path: { entry_id: entry.id }, query: { version: over } },
          body,
        }),
      ),
    onSuccess: (saved) => {
      putAway();
      setConflict(null);
      queries.setQueryData(server.entry(entry.id).queryKey, saved);
      // What is planned follows from what was learned.
      void queries.invalidateQueries({ predicate: (one) => FOLLOWS.has(String(one.queryKey[0])) });
    },
    onError: (problem) => {
      if (problem instanceof Refusal && problem.conflict)
        setConflict((problem.now as { version: number } | null)?.version ?? null);
    },
  });
  const save = (body = draft, over = version ?? entry.version) => {
    put.mutate({ body, over });
  };
  const restore = async () => {
    await answer(
      client.POST("/api/logbook/{entry_id}/restore", { params: { path: { entry_id: entry.id } } }),
    );
    await queries.invalidateQueries({ queryKey: ["logbook"] });
  };
  const remove = useMutation({
    mutationFn: () =>
      answer(
        client.DELETE("/api/logbook/{entry_id}", {
          params: { path: { entry_id: entry.id }, query: { version: entry.version } },
        }),
      ),
    onSuccess: () => {
      void navigate("/logbook");
      void queries.invalidateQueries({ queryKey: ["logbook"] });
      offer({ text: `${entry.name} is out of the book.`, undo: () => void restore() });
    },
  });
  return {
    draft,
    touched,
    change,
    conflict: conflict !== null,
    problem: conflict === null ? (put.error ?? remove.error)?.message : undefined,
    saving: put.isPending,
    save: () => {
      save();
    },
    /** Whether it counts: said at once, with whatever else was changed. */
    say: (counts: boolean | null) => {
      save({ ...draft, counts });
    },
    keepMine: () => {
      save(draft, conflict ?? entry.version);
    },
    takeTheirs: () => {
      putAway();
      setConflict(null);
      put.reset();
      void queries.invalidateQueries({ queryKey: server.entry(entry.id).queryKey });
    },
    remove: () => {
      remove.mutate();
    },
  };
}

const FOLLOWS = new Set(["logbook", "kitchen", "match", "played", "row"]);
