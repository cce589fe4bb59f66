import { useMutation } from "@tanstack/react-query";
import { Refusal } from "../api/client";
import { useUndo } from "../app/Undo";

/** A saved thing, as far as saving it goes. */
export interface Row {
  id: number;
  version: number;
  name: string;
}

/** What one desk does its own way; everything else of saving is the same at all of them. */
export interface Saves<D, S extends Row> {
  draft: D;
  saved: S | null;
  /** Whether anything was changed, and the version of the saved thing that the draft began from. */
  touched: boolean;
  began: number | null;
  /** It cannot be saved as it stands. */
  held: boolean;
  /** The name it has, given or usual. */
  title: string;
  named: (draft: D, name: string) => D;
  draftOf: (row: S) => D;
  write: (draft: D, over: { id: number; version: number } | null) => Promise<S>;
  /** It is saved: the draft is put away, and the view opens it. */
  onSaved: (row: S) => void;
  /** The saved one is known anew, without this draft. */
  settle: (row: S) => void;
  putAway: () => void;
  takeBack: (draft: D) => void;
}

const MOST_NAME = 80;

/**
 * Saving a draft over what it began from, and what to do when another window saved in between: keep
 * both, mine in its place with the other as a copy, or the other with mine to be taken back.
 */
export function useSaving<D, S extends Row>(desk: Saves<D, S>) {
  const { draft, saved, touched, began } = desk;
  const offerUndo = useUndo();
  const save = useMutation({
    mutationFn: ({ as, over }: { as: D; over: { id: number; version: number } | null }) =>
      desk.write(as, over),
    onSuccess: desk.onSaved,
  });
  const untouched = saved !== null && !touched;
  // What the draft began from: whatever came after it is not overwritten unseen.
  const over = saved ? { id: saved.id, version: began ?? saved.version } : null;
  const clash = save.error instanceof Refusal && save.error.conflict ? (save.error.now as S) : null;
  const behind = saved && touched && began !== null && saved.version !== began ? saved : null;
  const theirs = clash ?? behind;
  const short = (text: string) => text.slice(0, MOST_NAME);
  // What was changed is not lost by it.
  const putAside = () => {
    const mine = draft;
    desk.putAway();
    offerUndo({
      text: "What you had changed is put aside.",
      undo: () => {
        desk.takeBack(mine);
      },
    });
  };
  return {
    untouched,
    busy: save.isPending,
    held: save.isPending || desk.held,
    problem: clash ? null : save.error,
    theirs,
    doSave: () => {
      if (!save.isPending && !desk.held && !untouched) save.mutate({ as: draft, over });
    },
    /** The saved row: as it is, or saved now; null where that was refused. */
    ensured: async (): Promise<S | null> =>
      untouched ? saved : await save.mutateAsync({ as: draft, over }).catch(() => null),
    keepBoth: () => {
      if (!theirs) return;
      const settled = () => {
        save.reset();
        desk.settle(theirs);
      };
      save.mutate(
        { as: desk.named(draft, short(`${desk.title}, mine`)), over: null },
        { onSuccess: settled },
      );
    },
    mineInItsPlace: () => {
      if (!theirs) return;
      const other = desk.named(desk.draftOf(theirs), short(`${theirs.name}, the other`));
      void desk.write(other, null).then(() => {
        save.mutate({ as: desk.named(draft, desk.title), over: { id: theirs.id, version: theirs.version } });
      });
    },
    takeTheirs: () => {
      if (!theirs) return;
      putAside();
      save.reset();
      desk.settle(theirs);
    },
    /** As it is saved, or as a new one begins. */
    beginAgain: putAside,
  };
}

export type Saving = Pick<
  ReturnType<typeof useSaving>,
  "busy" | "keepBoth" | "mineInItsPlace" | "takeTheirs"
>;
