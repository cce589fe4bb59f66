import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useShortcut } from "../../app/useShortcut";
import type { StyleLine } from "../../ui/styles";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import { useSaving } from "../../ui/useSaving";
import { asked, type DoughDraft, type DoughInput, type SavedDough } from "./types";
import { useBatch } from "./useBatch";

function draftOf(saved: SavedDough): DoughDraft {
  return { name: saved.name, dough: saved.dough, planId: saved.plan_id, mixedAt: saved.mixed_at };
}

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
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { draft, touched, change, putAway, leave, version } = useKeptDraft<DoughDraft>(
    `dough ${owner} ${saved ? String(saved.id) : `new ${String(planId ?? "")}`}`,
    saved ? draftOf(saved) : { name: "", dough: start, planId, mixedAt: null },
    saved?.version ?? null,
  );
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
  const settle = (dough: SavedDough) => {
    queries.setQueryData(["dough", dough.id], dough);
    void queries.invalidateQueries({ queryKey: ["doughs"] });
  };
  const begin = () => {
    batch.forget();
    putAway();
  };
  const saving = useSaving<DoughDraft, SavedDough>({
    draft,
    saved,
    touched,
    began: version,
    held: batch.refusal !== null,
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
