import { useState } from "react";
import { useShortcut } from "../../app/useShortcut";
import type { StyleLine } from "../../ui/styles";
import { withDough } from "../../supper/draft";
import { useSupperSaving, type SupperAtHand } from "../../supper/useSupper";
import { useLast } from "../../ui/useLast";
import type { DoughDraft, DoughInput } from "./types";
import { useBatch } from "./useBatch";

/** The style a dough is made for: its own before a known one. */
function styleOf(dough: DoughInput, styles: readonly StyleLine[]): StyleLine | undefined {
  const { style, own_style } = dough.formula;
  return (
    styles.find((s) => s.ownId === null && s.key === style && !own_style) ??
    styles.find((s) => s.key === own_style?.key)
  );
}

/** The dough on the desk: its draft, what it comes to, and saving it. */
export function useDoughDesk({
  supper,
  styles,
  start,
}: {
  supper: SupperAtHand;
  styles: readonly StyleLine[];
  start: DoughInput;
}) {
  const first: DoughDraft = { name: "", dough: start, mixedAt: null };
  const draft = supper.draft.dough ?? first;
  const put = (to: Partial<DoughDraft>) => {
    supper.change((was) => withDough(was, { ...(was.dough ?? first), ...to }));
  };
  const batch = useBatch(draft.dough, (dough) => {
    put({ dough });
  });
  const [dragging, setDragging] = useState(false);
  const style = styleOf(draft.dough, styles);
  const pieces = draft.dough.formula.pieces.reduce((sum, p) => sum + (p.count ?? 1), 0);
  const usual = `${style?.name ?? "Dough"} for ${String(pieces)}`;
  const title = supper.draft.name || draft.name || usual;
  const begin = () => {
    batch.forget();
    supper.kept.putAway();
  };
  const { saving } = useSupperSaving(supper, {
    part: "dough",
    held: batch.refusal !== null,
    lacks: supper.saved !== null && supper.saved.dough == null,
    whole: (as) => ({ ...as, dough: as.dough ?? first }),
    putAway: begin,
  });
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    saving.doSave();
  });
  return {
    supper,
    draft,
    touched: supper.touched,
    put,
    begin,
    batch,
    saved: supper.saved?.dough ?? null,
    saving,
    style,
    usual,
    title,
    // A refusal leaves the last answer standing.
    told: useLast(batch.told),
    stale: dragging || batch.stale,
    setDragging,
    /** What is shown is this supper's dough, though nobody has changed it. */
    settleIn: () => {
      if (!supper.draft.dough) put({});
    },
    rework: (dough: DoughInput) => {
      batch.forget();
      put({ dough });
    },
  };
}

export type Desk = ReturnType<typeof useDoughDesk>;
