import { useState } from "react";
import { useShortcut } from "../../app/useShortcut";
import type { StyleLine } from "../../ui/styles";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import type { DoughDraft, DoughInput, SavedDough } from "./types";
import { useBatch } from "./useBatch";
import { draftOf, useDoughSaving } from "./useDoughSaving";

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
  owner,
  styles,
  saved,
  start,
  planId,
}: {
  owner: string;
  styles: readonly StyleLine[];
  saved: SavedDough | null;
  start: DoughInput;
  planId: number | null;
}) {
  const kept = useKeptDraft<DoughDraft>(
    `dough ${owner} ${saved ? String(saved.id) : `new ${String(planId ?? "")}`}`,
    saved ? draftOf(saved) : { name: "", dough: start, planId, mixedAt: null },
    saved?.version ?? null,
  );
  const { draft, touched, change, putAway } = kept;
  const put = (to: Partial<DoughDraft>) => {
    change((was) => ({ ...was, ...to }));
  };
  const batch = useBatch(draft.dough, (dough) => {
    put({ dough });
  });
  const [dragging, setDragging] = useState(false);
  const style = styleOf(draft.dough, styles);
  const pieces = draft.dough.formula.pieces.reduce((sum, p) => sum + (p.count ?? 1), 0);
  const usual = `${style?.name ?? "Dough"} for ${String(pieces)}`;
  const title = draft.name || usual;
  const begin = () => {
    batch.forget();
    putAway();
  };
  const saving = useDoughSaving({ kept, saved, usual, title, held: batch.refusal !== null, putAway: begin });
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    saving.doSave();
  });
  return {
    draft,
    touched,
    put,
    begin,
    batch,
    saved,
    saving,
    style,
    usual,
    title,
    // A refusal leaves the last answer standing.
    told: useLast(batch.told),
    stale: dragging || batch.stale,
    setDragging,
    rework: (dough: DoughInput) => {
      batch.forget();
      put({ dough });
    },
  };
}

export type Desk = ReturnType<typeof useDoughDesk>;
