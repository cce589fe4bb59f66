import { Figure } from "../../ui/Figure";
import { OUNCE_G, SMALL_G } from "../../ui/units";
import type { Batch, Change, DoughReference } from "./types";

/** Kinds of ingredient one of which can stand for another. */
const SWAPPED: readonly string[] = ["flour", "yeast", "salt", "fat", "sugar"];

/** The ingredient's name; where others of its kind would do, they can be chosen in its place. */
function Name({
  row,
  others,
  locked,
  onSwap,
}: {
  row: Batch["formula"]["rows"][number];
  others: DoughReference["ingredients"];
  locked: boolean;
  onSwap: (to: string) => void;
}) {
  if (locked || !others.length) return <>{row.name}</>;
  return (
    <select
      aria-label={`${row.name}, or in its place`}
      className="max-w-full cursor-pointer appearance-none border-b border-dotted border-ash bg-panel font-semibold"
      value={row.ingredient}
      onChange={(e) => {
        onSwap(e.target.value);
      }}
    >
      <option value={row.ingredient}>{row.name}</option>
      {others.map((other) => (
        <option key={other.key} value={other.key}>
          {other.name}
        </option>
      ))}
    </select>
  );
}

export interface Edits {
  /** Ounces, not grams. */
  us: boolean;
  /** What stays when a mass is typed. */
  hold: "dough" | "flour";
  waterC: string;
  wrong: (at: string) => string | undefined;
  onBegin: () => void;
  onChange: (at: string, change: Change) => void;
}

/** One ingredient: its share of the flour and its mass, either of which can be typed. */
export function FormulaRow({
  row,
  locked,
  unused,
  edits,
  onHold,
  onLeaveOut,
}: {
  row: Batch["formula"]["rows"][number];
  locked: boolean;
  unused: DoughReference["ingredients"];
  edits: Edits;
  onHold: () => void;
  onLeaveOut: () => void;
}) {
  const { hold, waterC, wrong, onBegin, onChange } = edits;
  // A tenth of an ounce is no measure of yeast: what is small is weighed in grams everywhere.
  const small = row.total_g < SMALL_G;
  const us = edits.us && !small;
  const grams = (value: number) => (us ? value / OUNCE_G : value);
  const digits = (value: number) => (us ? (value < 3 ? 3 : 2) : value < 10 ? 2 : value < 100 ? 1 : 0);
  return (
    <tr className="border-t border-line" data-ingredient={row.ingredient}>
      <th scope="row" className="py-1 pr-1 text-left text-[16px] font-semibold leading-tight">
        <Name
          row={row}
          others={unused.filter((u) => u.role === row.role && SWAPPED.includes(u.role))}
          locked={locked}
          onSwap={(to) => {
            onChange(`${row.ingredient} swap`, {
              what: "swap",
              value: 0,
              ingredient: row.ingredient,
              to,
              hold,
            });
          }}
        />
        {row.ingredient === "water" ? <span className="font-normal text-air"> at {waterC}</span> : null}
        {row.household ? (
          <span className="block text-[13px] font-normal text-ash">{row.household}</span>
        ) : null}
      </th>
      <td className="text-right align-baseline">
        <Figure
          label={`${row.name}, % of the flour`}
          value={row.pct}
          digits={row.pct < 1 ? 3 : row.pct < 10 ? 2 : 1}
          step={row.role === "yeast" ? 0.01 : row.pct < 10 ? 0.1 : 1}
          wide="w-[4.2rem] text-[17px]"
          disabled={locked}
          problem={wrong(`${row.ingredient} pct`)}
          onBegin={onBegin}
          onChange={(value) => {
            onChange(`${row.ingredient} pct`, {
              what: "pct",
              value,
              ingredient: row.ingredient,
              hold,
            });
          }}
        />
      </td>
      <td className="text-right align-baseline">
        <Figure
          label={`${row.name}, ${us ? "ounces" : "grams"}`}
          value={grams(row.total_g)}
          digits={digits(row.total_g)}
          step={us ? 0.1 : row.total_g < 10 ? 0.1 : row.total_g < 100 ? 1 : 10}
          wide={edits.us && small ? "w-[4rem] text-[18px] font-bold" : "w-[5rem] text-[18px] font-bold"}
          {...(edits.us && small ? { unit: "g" } : {})}
          disabled={locked}
          problem={wrong(`${row.ingredient} mass`)}
          onBegin={onBegin}
          onChange={(value) => {
            onChange(`${row.ingredient} mass`, {
              what: "mass_g",
              value: us ? value * OUNCE_G : value,
              ingredient: row.ingredient,
              hold,
            });
          }}
        />
      </td>
      <td className="pl-1 text-right whitespace-nowrap max-md:w-9">
        <button
          type="button"
          className={`px-1 max-md:block text-[12.5px] underline-offset-2 hover:underline ${locked ? "font-semibold text-brick" : "text-ash"}`}
          aria-pressed={locked}
          aria-label={locked ? `held: ${row.name}, let it go` : `hold ${row.name}`}
          onClick={() => {
            onHold();
          }}
        >
          {locked ? "held" : "hold"}
        </button>
        <button
          type="button"
          className="px-1 text-[14px] text-ash hover:text-brick max-md:w-full max-md:text-center"
          aria-label={`Leave out ${row.name}`}
          onClick={onLeaveOut}
        >
          ×
        </button>
      </td>
    </tr>
  );
}
