import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useShortcut } from "../../app/useShortcut";
import { withPizzas } from "../../supper/draft";
import { useSupperSaving, type SupperAtHand } from "../../supper/useSupper";
import { useLast } from "../../ui/useLast";
import { useUnits } from "../../ui/units";
import type { Told, Words } from "./types";
import { useDays } from "./useDays";
import { useSupperSteps } from "./useSupperSteps";

/** The supper on the desk: its words, its days laid out, and saving it. */
export function useSupperDesk({ supper, start }: { supper: SupperAtHand; start: Words }) {
  const units = useUnits();
  const queries = useQueryClient();
  const { saved, draft, touched, change } = supper;
  const words = draft.words ?? start;
  const say = ({ pizzas, ...to }: Partial<Words>) => {
    change((was) => {
      const now = { ...(was.words ?? start), ...to };
      return pizzas === undefined ? { ...was, words: now } : withPizzas(was, now, pizzas);
    });
  };
  const [dragging, setDragging] = useState(false);
  // A saved supper nobody has touched is shown as it was stored, not laid out again.
  const stored = saved !== null && !touched ? (saved.told ?? null) : null;
  const asked = useDays(stored ? null : { ...draft, words }, saved?.id ?? null, dragging);
  const told: Told | null = stored ?? asked.told;
  const { refusal } = asked;
  const title = draft.name || supper.usual;
  const { saving, settle } = useSupperSaving(supper, {
    part: "timeline",
    held: refusal !== null,
    lacks: saved !== null && saved.words == null,
    whole: (as) => ({ ...as, words: as.words ?? start }),
  });
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    saving.doSave();
  });
  // An impossible wish leaves the last possible days in sight.
  const lastGood = useLast(
    told?.result.feasible && !refusal ? told : null,
    saved?.told?.result.feasible ? saved.told : null,
  );
  const impossible = !refusal && told !== null && !told.result.feasible;
  const shown = refusal || impossible ? lastGood : (told ?? lastGood);
  const steps = useSupperSteps({ saved, untouched: saving.untouched, words, shown, say, settle });
  return {
    supper,
    draft,
    words,
    touched,
    change,
    say,
    saved,
    saving,
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
      for (const key of ["supper", "supper-preview"]) void queries.invalidateQueries({ queryKey: [key] });
    },
  };
}

export type Desk = ReturnType<typeof useSupperDesk>;
