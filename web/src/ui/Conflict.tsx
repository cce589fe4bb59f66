import { Button } from "./Button";
import { differences } from "./differences";

/**
 * Two windows changed one thing: both versions side by side, and three ways on, none of which loses
 * either. `mine` is this window's, `theirs` what is saved now.
 */
export function Conflict({
  noun,
  mine,
  theirs,
  busy,
  onBoth,
  onMine,
  onTheirs,
}: {
  noun: string;
  mine: unknown;
  theirs: unknown;
  busy: boolean;
  /** Keep mine as one of its own, beside the other. */
  onBoth: () => void;
  /** Mine in its place; the other is kept as one of its own. */
  onMine: (() => void) | null;
  /** The saved one; mine can be taken back. */
  onTheirs: () => void;
}) {
  const { shown, more } = differences(mine, theirs);
  return (
    <section
      role="alertdialog"
      aria-label="Two versions"
      className="leaf grid gap-2 border-l-4 border-brick p-3"
    >
      <p className="font-semibold">
        This {noun} was changed in another window after you began. Both are here; nothing is lost.
      </p>
      {shown.length === 0 ? (
        <p>The two say the same now.</p>
      ) : (
        <table className="text-[14px]">
          <thead className="text-left text-[13px] text-ash">
            <tr>
              <th scope="col" className="pr-4 font-normal">
                what differs
              </th>
              <th scope="col" className="pr-4 font-normal">
                yours, here
              </th>
              <th scope="col" className="font-normal">
                the other, saved
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((one) => (
              <tr key={one.name} className="border-t border-line align-baseline">
                <th scope="row" className="pr-4 text-left font-normal">
                  {one.name}
                </th>
                <td className="pr-4 font-semibold">{one.mine}</td>
                <td className="font-semibold">{one.theirs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {more > 0 ? <p className="text-[13px] text-ash">and {more} more</p> : null}
      <div className="flex flex-wrap gap-2">
        <Button look="press" disabled={busy} onClick={onBoth}>
          Keep both: yours as a new one
        </Button>
        {onMine ? (
          <Button disabled={busy} onClick={onMine}>
            Yours in its place, the other as a copy
          </Button>
        ) : null}
        <Button disabled={busy} onClick={onTheirs}>
          Take the other
        </Button>
      </div>
    </section>
  );
}
