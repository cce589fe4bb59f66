import { useEffect, useRef, useState } from "react";
import { ownStorage } from "../api/locker";
import { readDraft, writeDraft, type Kept } from "./drafts";

/**
 * A draft kept in this browser under a key, over a reload; null: nothing was changed yet. It knows the
 * version of the saved thing it began from, so that saving it never overwrites what came after. The
 * third of what it gives forgets the draft when its view is about to be left: what is drawn stays till then.
 */
export function useKept<T>(key: string, version: number | null = null) {
  const [state, setState] = useState(() => ({ key, kept: readDraft<T>(key, version) }));
  if (state.key !== key) setState({ key, kept: readDraft<T>(key, version) });
  const kept = state.key === key ? state.kept : readDraft<T>(key, version);
  const leave = () => {
    ownStorage.removeItem(key);
  };
  const put = (next: Kept<T> | null) => {
    if (next) writeDraft(key, next);
    else leave();
    setState({ key, kept: next });
  };
  const set = (value: T | null) => {
    put(value === null ? null : { version: kept?.version ?? version, value });
  };
  return [kept?.value ?? null, set, leave, kept?.version ?? version] as const;
}

/**
 * A draft that begins as `first` and is kept from its first change on. `change` works on the newest
 * draft, so that several changes of one moment add up. When it is saved it is put away: a new one's
 * view is left for that of the saved one, and is not drawn empty in between. `version` is the saved
 * thing's as the draft began.
 */
export function useKeptDraft<T>(key: string, first: T, saved: number | null = null) {
  const [kept, keep, leave, version] = useKept<T>(key, saved);
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
  return { draft, touched: kept !== null, change, putAway, leave, version };
}
