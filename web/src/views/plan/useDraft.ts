import { useEffect, useState } from "react";
import type { Draft } from "./types";

function read(key: string): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "null") as Draft | null;
    return kept && typeof kept.sentence === "object" ? kept : null;
  } catch {
    return null;
  }
}

/** Where a draft is kept in this browser. */
export function draftKey(owner: string, planId: number | null): string {
  return `draft ${owner} ${planId === null ? "new" : String(planId)}`;
}

/** The cook's draft for one plan (or a new one), kept over a reload. null: nothing was changed yet. */
export function useDraft(owner: string, planId: number | null) {
  const key = draftKey(owner, planId);
  const [state, setState] = useState(() => ({ key, draft: read(key) }));
  if (state.key !== key) setState({ key, draft: read(key) });
  const draft = state.key === key ? state.draft : read(key);
  useEffect(() => {
    if (state.key !== key) return;
    if (state.draft) localStorage.setItem(key, JSON.stringify(state.draft));
    else localStorage.removeItem(key);
  }, [key, state]);
  const set = (next: Draft | null) => {
    setState({ key, draft: next });
  };
  return [draft, set] as const;
}
