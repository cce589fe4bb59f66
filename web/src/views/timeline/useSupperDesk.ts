import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useShortcut } from "../../app/useShortcut";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import { useUnits } from "../../ui/units";
import type { SavedSupper, SupperDraft, Told, Words } from "./types";
import { useSupper } from "./useSupper";
import { useSupperSaving } from "./useSupperSaving";
import { useSupperSteps } from "./useSupperSteps";

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
  const queries = useQueryClient();
  const kept = useKeptDraft<SupperDraft>(
    `supper ${owner} ${place}`,
    { name: saved?.name ?? "", words: start },
    saved?.version ?? null,
  );
  const { draft, touched, change } = kept;
  const { words } = draft;
  const say = (to: Partial<Words>) => {
    change((was) => ({ ...was, words: { ...was.words, ...to } }));
  };
  const [dragging, setDragging] = useState(false);
  // A saved supper nobody has touched is shown as it was stored, not laid out again.
  const asked = useSupper(saved !== null && !touched ? null : words, dragging);
  const told: Told | null = saved !== null && !touched ? saved.told : asked.told;
  const { refusal } = asked;
  const usual = `Supper for ${String(words.pizzas ?? 4)}`;
  const title = draft.name || usual;
  const { saving, settle } = useSupperSaving({ kept, saved, usual, title, held: refusal !== null });
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
    say,
    saved,
    saving,
    usual,
    title,
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
