import { crustWord, type Reference } from "../../ui/crust";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { clockOf } from "./clockOf";
import { linesOf } from "./log";
import type { Happened } from "../../ui/bakeTypes";

/** The evening as it went, filled from what was told. */
export function BakeLog({
  happened,
  count,
  heatOnMs,
  reference,
}: {
  happened: readonly Happened[];
  count: number;
  heatOnMs: number;
  reference: Reference;
}) {
  const units = useUnits();
  const word = (part: string, l: number) =>
    crustWord(part === "cheese" ? reference.cheese_words : reference.words, l);
  return (
    <section className="mt-6" data-testid="log">
      <h2 className="text-[20px] font-bold">How it went</h2>
      <p className="text-ash">Heat on at {clockOf(heatOnMs)}</p>
      {Array.from({ length: count }, (_, i) => i + 1)
        .map((pizza) => ({ pizza, lines: linesOf(happened, pizza, count, word) }))
        .filter(({ lines }) => lines.length > 0)
        .map(({ pizza, lines }) => (
          <div key={pizza} className="mt-3 border-t border-line pt-2">
            <h3 className="text-[17px] font-bold">Pizza {pizza}</h3>
            <ul>
              {lines.map((line) => (
                <li key={line.id} className="flex gap-3">
                  <span className="w-16 shrink-0 text-right tabular-nums text-ash">
                    {line.sinceS === null ? clockOf(line.atMs) : bakeTime(line.sinceS)}
                  </span>
                  <span>{line.deckC === null ? line.text : `${line.text} ${units.temp(line.deckC)}`}</span>
                </li>
              ))}
            </ul>
          </div>
        ))}
    </section>
  );
}
