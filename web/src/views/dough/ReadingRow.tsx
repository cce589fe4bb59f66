import { short } from "./shares";
import type { DoughInput, DoughReference } from "./types";
import type { Reading, Told } from "./usePasted";

/** One line of a pasted list as it was read, to be put right. */
export function ReadingRow({
  reading: r,
  at: i,
  told,
  dough,
  things,
  onChange,
}: {
  reading: Reading;
  at: number;
  told: Told;
  dough: DoughInput;
  things: DoughReference;
  onChange: (to: Partial<Reading>) => void;
}) {
  return (
    <tr className="border-t border-line align-baseline" data-reading={i}>
      <td className="py-1 pr-2">
        <select
          aria-label={`What “${r.text}” is`}
          className="max-w-[9.6rem] border-b border-line bg-panel font-semibold"
          value={r.ingredient}
          onChange={(e) => {
            onChange({ ingredient: e.target.value });
          }}
        >
          <option value="">left out</option>
          {things.ingredients.map((t) => (
            <option key={t.key} value={t.key}>
              {t.name}
            </option>
          ))}
        </select>
        <span className="block text-[12.5px] text-ash">“{r.text}”</span>
        {r.note ? <span className="block text-[13px] font-semibold text-brick">{r.note}</span> : null}
        {r.problem ? (
          <span className="block text-[13px] text-brick">{r.problem}</span>
        ) : !r.sure ? (
          <span className="block text-[12.5px] text-air">a guess; put it right if you know better</span>
        ) : null}
      </td>
      <td className="pr-1">
        <input
          key={String(r.amount)}
          aria-label={`How much of “${r.text}”`}
          className="figure w-12"
          inputMode="decimal"
          defaultValue={r.amount === null ? "" : String(Math.round(r.amount * 1000) / 1000)}
          onBlur={(e) => {
            const amount = Number(e.target.value.replace(",", "."));
            if (e.target.value.trim() !== "" && !Number.isNaN(amount) && amount !== r.amount)
              onChange({ amount });
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") e.currentTarget.blur();
          }}
        />
      </td>
      <td className="pr-2">
        <select
          aria-label={`Unit of “${r.text}”`}
          className="border-b border-line bg-panel"
          value={r.unit || "g"}
          onChange={(e) => {
            onChange({ unit: e.target.value });
          }}
        >
          {things.units.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
      </td>
      <td className="pl-2 text-right font-semibold">{r.grams === null ? "" : short(r.grams)}</td>
      <td className="pl-3 text-right">{short(told.lines.find((l) => l.ingredient === r.ingredient)?.pct)}</td>
      <td className="pl-3 text-right text-ash">
        {short(dough.formula.lines.find((l) => l.ingredient === r.ingredient)?.pct)}
      </td>
    </tr>
  );
}
