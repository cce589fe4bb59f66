import { useEffect, useRef, useState } from "react";

function read<T>(key: string): T | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? "null") as T | null;
    return kept && typeof kept === "object" ? kept : null;
  } catch {
    return null;
  }
}

/** A draft kept in this browser under a key, over a reload; null: nothing was changed yet. */
export function useKept<T>(key: string) {
  const [state, setState] = useState(() => ({ key, value: read<T>(key) }));
  if (state.key !== key) setState({ key, value: read<T>(key) });
  const value = state.key === key ? state.value : read<T>(key);
  useEffect(() => {
    if (state.key !== key) return;
    if (state.value) localStorage.setItem(key, JSON.stringify(state.value));
    else localStorage.removeItem(key);
  }, [key, state]);
  const set = (next: T | null) => {
    setState({ key, value: next });
  };
  return [value, set] as const;
}

/**
 * A draft that begins as `first` and is kept from its first change on. `change` works on the newest
 * draft, so that several changes of one moment add up. null puts it away.
 */
export function useKeptDraft<T>(key: string, first: T) {
  const [kept, keep] = useKept<T>(key);
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
  return { draft, touched: kept !== null, change, putAway };
}
