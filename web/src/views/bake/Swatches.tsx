import type { Reference } from "../../ui/crust";
import { shadesOf, SWATCHES, SwatchRow } from "../../ui/SwatchRow";
import { matched } from "../../ui/bakeStages";
import type { Happened, Tell } from "../../ui/bakeTypes";

/** Base, rim and cheese on the crust's own ramp: one tap says what is seen. Arrows go along a row. */
export function Swatches({
  happened,
  pizza,
  reference,
  now,
  tell,
}: {
  happened: readonly Happened[];
  pizza: number;
  reference: Reference;
  now: number;
  tell: Tell;
}) {
  return (
    <div>
      {SWATCHES.map(([part, row]) => (
        <SwatchRow
          key={part}
          part={part}
          shades={shadesOf(reference, part, row)}
          chosen={matched(happened, part, now, pizza)}
          see={(l) => {
            tell("bake.seen", { [part]: l });
          }}
        />
      ))}
    </div>
  );
}
