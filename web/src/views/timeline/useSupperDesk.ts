import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useShortcut } from "../../app/useShortcut";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import { useSaving } from "../../ui/useSaving";
import { useUnits } from "../../ui/units";
import type { SavedSupper, SupperDraft, Told, Words } from "./types";
import { asQuestion, useSupper } from "./useSupper";
import { useSupperSteps } from "./useSupperSteps";

function draftOf(saved: SavedSupper): SupperDraft {
  return { name: saved.name, words: saved.words as Words };
}

/** The supper on the desk: its words, its days laid out, and saving it. */
export function useSupperDesk({
  owner,
  saved,
  start,
  place,
}: {
  owner: string;
  saved: SavedSupper | null;
  start: Words;
  place: string;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const kept = useKeptDraft<SupperDraft>(
    `supper ${owner} ${place}`,
    { name: saved?.name ?? "", words: start },
    saved?.version ?? null,
  );
  const { draft, touched, change, putAway } = kept;
  const { words } = draft;
  const say = (to: Partial<Words>) => {
    change((was) => ({ ...was, words: { ...was.words, ...to } }));
  };
  const settle = (row: SavedSupper) => {
    queries.setQueryData(["supper", row.id], row);
    for (const key of ["suppers", "next-step", "doughs", "dough"])
      void queries.invalidateQueries({ queryKey: [key] });
  };
  const [dragging, setDragging] = useState(false);
  // A saved supper nobody has touched is shown as it was stored, not laid out again.
  const asked = useSupper(saved !== null && !touched ? null : words, dragging);
  const told: Told | null = saved !== null && !touched ? saved.told : asked.told;
  const { refusal } = asked;
  const usual = `Supper for ${String(words.pizzas ?? 4)}`;
  const saving = useSaving<SupperDraft, SavedSupper>({
    draft,
    saved,
    touched,
    began: kept.version,
    held: refusal !== null,
    title: draft.name || usual,
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
      else kept.leave();
      settle(row);
      void navigate(`/timeline/${String(row.id)}`);
    },
    settle,
    putAway,
    takeBack: (mine) => {
      change(() => mine);
    },
  });
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    saving.doSave();
  });
  // An impossible wish leaves the last possible days in sight.
  const lastGood = useLast(
    told?.result.feasible && !refusal ? told : null,
    saved?.told.result.feasible ? saved.told : null,
  );
  const impossible = !refusal && told !== null && !told.result.feasible;
  const shown = refusal || impossible ? lastGood : (told ?? lastGood);
  const steps = useSupperSteps({ saved, untouched: saving.untouched, words, shown, say, settle });
  return {
    draft,
    words,
    touched,
    change,
    putAway,
    say,
    saved,
    saving,
    usual,
    title: draft.name || usual,
    told,
    lastGood,
    shown,
    impossible,
    steps,
    refusal: refusal ? { path: refusal.path, text: units.say(refusal.message) } : null,
    setDragging,
    stale: dragging || asked.stale || steps.busy,
    /** The same words, laid out anew. */
    layOut: () => {
      change((was) => ({ ...was }));
    },
    /** What the saved doughs say has changed, and the stored answer knows nothing of it. */
    afterDough: () => {
      for (const key of ["dough", "supper-preview"]) void queries.invalidateQueries({ queryKey: [key] });
      change((was) => ({ ...was }));
    },
  };
}

export type Desk = ReturnType<typeof useSupperDesk>;
