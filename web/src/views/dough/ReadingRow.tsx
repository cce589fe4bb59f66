import { useState } from "react";
import { NumberInput } from "../../ui/NumberInput";
import { numberIn } from "../../ui/numbers";
import { useUnits } from "../../ui/units";
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
  const units = useUnits();
  if (!r.ingredient && r.sure && !r.note && !r.problem)
    return (
      <tr className="border-t border-line" data-reading={i}>
        <td colSpan={6} className="pt-2 font-semibold">
          {r.text}
        </td>
      </tr>
    );
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
        <span className="block text-[12.5px] text-ash">
          “{r.text}”{r.part && r.part !== "aside" ? `, of the ${r.part.replace("_", " ")}` : ""}
        </span>
        {r.unused ? <span className="block text-[12.5px] text-ash">not used: {r.unused}</span> : null}
        {r.note ? (
          <span className={`block text-[13px] ${r.warns ? "font-semibold text-brick" : "text-ash"}`}>
            {units.say(r.note)}
          </span>
        ) : null}
        {r.problem ? (
          <span className="block text-[13px] text-brick">{r.problem}</span>
        ) : !r.sure && r.ingredient ? (
          <span className="block text-[12.5px] text-air">a guess; put it right if you know better</span>
        ) : null}
      </td>
      <td className="pr-1">
        <Amount
          key={String(r.amount)}
          reading={r}
          onAmount={(amount) => {
            onChange({ amount });
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

/** How much of it, told when the field is left. */
function Amount({ reading, onAmount }: { reading: Reading; onAmount: (amount: number) => void }) {
  const [text, setText] = useState(
    reading.amount === null ? "" : String(Math.round(reading.amount * 1000) / 1000),
  );
  return (
    <NumberInput
      label={`How much of “${reading.text}”`}
      className="figure w-12"
      text={text}
      said={Number.isNaN(numberIn(text))}
      onText={setText}
      onBlur={() => {
        const amount = numberIn(text);
        if (amount !== null && !Number.isNaN(amount) && amount !== reading.amount) onAmount(amount);
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
      }}
    />
  );
}
