import { crustWord, type Reference } from "../../ui/crust";
import { SliceSection, Underside } from "../../ui/Slice";
import { shadesOf, SWATCHES, SwatchRow } from "../../ui/SwatchRow";
import type { OwnStyle, StyleBody, StyleLine } from "../../ui/styles";
import { bakeTime } from "../../ui/time";
import { UnitFigure } from "../../ui/UnitFigure";
import { useUnits } from "../../ui/units";
import { useKept } from "../../ui/useKept";
import { GROUPS, loadingOf, wantedCrust } from "./figures";
import { StyleHead } from "./StyleHead";
import { StyleShelf } from "./StyleShelf";
import { useStyleSaving } from "./useStyleSaving";

/** The swatch nearest to an L*. */
function nearest(row: readonly number[], l: number): number {
  return row.reduce((best, one) => (Math.abs(one - l) < Math.abs(best - l) ? one : best));
}

/** One style with the crust it wants drawn beside its figures; what is changed is kept here until it is kept for good. */
export function StyleDesk({
  styleKey,
  owner,
  own,
  body,
  lines,
  reference,
}: {
  styleKey: string;
  owner: string;
  /** The cook's own; null: a known one, to begin from. */
  own: OwnStyle | null;
  body: StyleBody;
  lines: readonly StyleLine[];
  reference: Reference;
}) {
  const units = useUnits();
  const [draft, keep, , version] = useKept<StyleBody>(`style ${owner} ${styleKey}`, own?.version ?? null);
  const saving = useStyleSaving(own, version, () => {
    keep(null);
  });
  const style = draft ?? body;
  const crust = wantedCrust(style);
  const { unit, shown } = units.as("g/cm²");
  const word = (l: number) => crustWord(reference.words, l);
  return (
    <main className="grid gap-x-6 gap-y-3 px-6 py-4 lg:grid-cols-[1fr_400px]">
      <StyleHead own={own} style={style} draft={draft} keep={keep} saving={saving} />
      <section aria-label="The crust it wants" className="grid content-start gap-2 bg-panel p-5">
        <SliceSection crust={crust} reference={reference} />
        <div className="grid items-center gap-5 md:grid-cols-[180px_1fr]">
          <div className="max-w-44">
            <Underside crust={crust} reference={reference} />
          </div>
          <p
            className="font-display text-[22px] leading-snug [&_b]:whitespace-nowrap"
            data-testid="style-said"
          >
            base <b>{word(style.target.base)}</b>, rim <b>{word(style.target.rim)}</b>, after{" "}
            <b>{bakeTime(style.bake_s[0] ?? 0)}</b> to <b>{bakeTime(style.bake_s[1] ?? 0)}</b> on a deck of{" "}
            <b>{units.temp(style.deck_c[0] ?? 0)}</b> to <b>{units.temp(style.deck_c[1] ?? 0)}</b>;{" "}
            <b>
              {shown(loadingOf(style)).toFixed(2)} {unit}
            </b>{" "}
            of dough
          </p>
        </div>
      </section>
      <section aria-label="Its figures" className="grid content-start gap-4 bg-panel p-5">
        {GROUPS.map((group) => (
          <fieldset key={group.name} className="grid gap-1">
            <legend className="mb-1 text-[16px] font-bold">{group.name}</legend>
            {group.figures.map((figure) => (
              <span
                key={figure.name}
                className="flex min-h-8 items-baseline justify-between gap-2 [&>span>span:last-child]:w-11"
              >
                <span>{figure.name}</span>
                <UnitFigure
                  label={figure.name}
                  kept={figure.unit}
                  value={figure.get(style)}
                  digits={figure.digits}
                  step={figure.step}
                  bounds={figure.bounds}
                  wide="w-20 text-right"
                  onChange={(v) => {
                    keep(figure.set(style, v));
                  }}
                />
              </span>
            ))}
          </fieldset>
        ))}
      </section>
      <section aria-label="Its colours" className="grid gap-x-8 bg-panel p-5 md:grid-cols-3 lg:col-span-2">
        {SWATCHES.map(([part, row]) => (
          <SwatchRow
            key={part}
            part={part}
            shades={shadesOf(reference, part, row)}
            chosen={nearest(row, style.target[part])}
            see={(l) => {
              keep({ ...style, target: { ...style.target, [part]: l } });
            }}
          />
        ))}
      </section>
      <StyleShelf lines={lines} here={styleKey} ramp={reference.ramp} />
    </main>
  );
}
