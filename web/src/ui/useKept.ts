import { useEffect, useRef, useState } from "react";

function read<T>(key: string): T | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "null") as T | null;
    return kept && typeof kept === "object" ? kept : null;
  } catch {
    return null;
  }
}

/**
 * A draft kept in this browser under a key, over a reload; null: nothing was changed yet. The third
 * of what it gives forgets the draft when its view is about to be left: what is drawn stays till then.
 */
export function useKept<T>(key: string) {
  const [state, setState] = useState(() => ({ key, value: read<T>(key) }));
  if (state.key !== key) setState({ key, value: read<T>(key) });
  const value = state.key === key ? state.value : read<T>(key);
  const leave = () => {
    localStorage.removeItem(key);
  };
  const set = (next: T | null) => {
    if (next) localStorage.setItem(key, JSON.stringify(next));
    else leave();
    setState({ key, value: next });
  };
  return [value, set, leave] as const;
}

/**
 * A draft that begins as `first` and is kept from its first change on. `change` works on the newest
 * draft, so that several changes of one moment add up. When it is saved it is put away: a new one's
 * view is left for that of the saved one, and is not drawn empty in between.
 */
export function useKeptDraft<T>(key: string, first: T) {
  const [kept, keep, leave] = useKept<T>(key);
  const draft = kept ?? first;
  const newest = useRef(draft);
  useEffect(() => {
    newest.current = draft;
  });
  const change = (to: (draft: T) => T) => {
    newest.current = to(newest.current);
    keep(newest.current);
  };
  const putAway = () => {
    keep(null);
  };
  return { draft, touched: kept !== null, change, putAway, leave };
}
