import { Conflict } from "./Conflict";
import type { Saving } from "./useSaving";

/** The two versions of a desk's thing, where another window saved it meanwhile. */
export function Versions({
  noun,
  mine,
  theirs,
  saving,
}: {
  noun: string;
  mine: unknown;
  theirs: unknown;
  saving: Saving;
}) {
  return (
    <Conflict
      noun={noun}
      mine={mine}
      theirs={theirs}
      busy={saving.busy}
      onBoth={saving.keepBoth}
      onMine={saving.mineInItsPlace}
      onTheirs={saving.takeTheirs}
    />
  );
}
