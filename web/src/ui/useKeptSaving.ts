import { useNavigate } from "react-router";
import type { useKeptDraft } from "./useKept";
import { useSaving, type Row, type Saves } from "./useSaving";

/** Saving a draft that this browser keeps, at a desk whose saved things have an address each. */
export function useKeptSaving<D extends { name: string }, S extends Row>({
  kept,
  saved,
  path,
  touched = kept.touched,
  putAway = kept.putAway,
  settle,
  ...own
}: Pick<Saves<D, S>, "held" | "title" | "draftOf" | "write" | "settle"> & {
  kept: ReturnType<typeof useKeptDraft<D>>;
  saved: S | null;
  /** Where a saved one is opened. */
  path: (id: number) => string;
  /** Whether there is something to save, where more counts than the draft. */
  touched?: boolean;
  /** Where more than the draft is to be forgotten. */
  putAway?: () => void;
}) {
  const navigate = useNavigate();
  return useSaving<D, S>({
    ...own,
    draft: kept.draft,
    saved,
    touched,
    began: kept.version,
    named: (draft, name) => ({ ...draft, name }),
    onSaved: (row) => {
      if (saved) kept.putAway();
      else kept.leave();
      settle(row);
      void navigate(path(row.id));
    },
    settle,
    putAway,
    takeBack: (mine) => {
      kept.change(() => mine);
    },
  });
}
