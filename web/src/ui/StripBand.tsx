import { crustWord, inkOn, type Reference } from "./crust";
import { valueAt } from "./interpolate";

/** Height of a band, px. */
export const BAND_H = 25;

/** One band of crust colour against time, with the word where it changes and a hatch where it is dark. */
export function Band({
  name,
  values,
  times,
  end,
  x,
  y,
  labelX,
  reference,
}: {
  name: string;
  values: readonly number[];
  times: readonly number[];
  end: number;
  x: (t: number) => number;
  y: number;
  labelX: number;
  reference: Reference;
}) {
  const spans: { word: string; from: number; to: number; l: number }[] = [];
  for (let i = 0; i <= 160; i++) {
    const t = (end * i) / 160;
    const l = valueAt(times, values, t);
    const word = crustWord(name === "cheese" ? reference.cheese_words : reference.words, l);
    const last = spans.at(-1);
    if (last?.word === word) last.to = t;
    else spans.push({ word, from: t, to: t, l });
  }
  return (
    <g>
      <text x={labelX} y={y + 17} fontSize="13.5" fontWeight="700" textAnchor="end" fill="var(--soot)">
        {name}
      </text>
      <rect x={x(0)} y={y} width={x(end) - x(0)} height={BAND_H} fill={`url(#band-${name})`} />
      {spans.map((s) => {
        const w = x(s.to) - x(s.from);
        const hatch =
          s.word === "dark" ? "url(#dark-band)" : s.word === "charred" ? "url(#charred-band)" : null;
        return (
          <g key={s.word}>
            {hatch ? <rect x={x(s.from)} y={y} width={w} height={BAND_H} fill={hatch} /> : null}
            {w > s.word.length * 7 + 6 ? (
              <text x={x(s.from) + 6} y={y + 17} fontSize="12.5" fontWeight="600" fill={inkOn(s.l)}>
                {s.word}
              </text>
            ) : null}
          </g>
        );
      })}
    </g>
  );
}
