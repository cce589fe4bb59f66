import { crustWord, inkOn, type Reference } from "./crust";
import { valueAt } from "./interpolate";
import { clearOf } from "./stripLayout";
import { BAND_H } from "./stripTypes";

/** One band of crust colour against time, with the word where it changes and a hatch where it is dark. */
export function Band({
  name,
  values,
  times,
  end,
  x,
  y,
  labelX,
  lines,
  reference,
}: {
  name: string;
  values: readonly number[];
  times: readonly number[];
  end: number;
  x: (t: number) => number;
  y: number;
  labelX: number;
  /** What runs across it, px. */
  lines: readonly number[];
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
      <text x={labelX} y={y + 15.5} fontSize="13.5" fontWeight="700" textAnchor="end" fill="var(--soot)">
        {name}
      </text>
      <rect x={x(0)} y={y} width={x(end) - x(0)} height={BAND_H} fill={`url(#band-${name})`} />
      {spans.map((s) => {
        const w = x(s.to) - x(s.from);
        const hatch =
          s.word === "dark" ? "url(#dark-band)" : s.word === "charred" ? "url(#charred-band)" : null;
        const left = clearOf(lines, x(s.from), x(s.to), s.word.length * 7);
        return (
          <g key={s.word}>
            {hatch ? <rect x={x(s.from)} y={y} width={w} height={BAND_H} fill={hatch} /> : null}
            {left !== null ? (
              <text x={left} y={y + 15.5} fontSize="12.5" fontWeight="600" fill={inkOn(s.l)}>
                {s.word}
              </text>
            ) : null}
          </g>
        );
      })}
    </g>
  );
}
