import { Figure } from "../../ui/Figure";
import { POUND_G } from "../../ui/units";
import { FillSelect } from "./FillSelect";
import type { Edits } from "./FormulaRow";
import type { Batch, DoughInput, DoughReference } from "./types";

/** Everything together, and the water in all of it. */
export function TotalRow({ dough, told, edits }: { dough: DoughInput; told: Batch; edits: Edits }) {
  const { formula } = told;
  const { us, hold, wrong, onBegin, onChange } = edits;
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 text-left font-normal text-ash">
        in all, with {dough.formula.bowl_loss_pct ?? 1.5} % for the bowl
        <span className="block">
          water in all{" "}
          <Figure
            label="Hydration of the whole dough, %"
            value={formula.hydration_pct}
            digits={1}
            step={1}
            wide="w-12 font-semibold text-soot"
            unit="%"
            problem={wrong("hydration")}
            onBegin={onBegin}
            onChange={(value) => {
              onChange("hydration", { what: "hydration_pct", value, hold });
            }}
          />
        </span>
      </th>
      <td className="text-right text-ash">{formula.sum_pct.toFixed(1)}</td>
      <td className="pr-1 text-right font-display text-[20px] font-bold">
        {us ? (formula.dough_g / POUND_G).toFixed(2) : Math.round(formula.dough_g)}
        {us ? " lb" : ""}
      </td>
      <td />
    </tr>
  );
}

/** More ingredients, and how masses and cups are meant. */
export function FormulaOptions({
  dough,
  unused,
  hold,
  onHold,
  onMore,
  onDough,
}: {
  dough: DoughInput;
  unused: DoughReference["ingredients"];
  hold: "dough" | "flour";
  onHold: (hold: "dough" | "flour") => void;
  onMore: (thing: DoughReference["ingredients"][number]) => void;
  onDough: (dough: DoughInput) => void;
}) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[13px]">
      <select
        aria-label="Add an ingredient"
        className="max-w-36 border-b border-line bg-panel py-0.5 text-air"
        value=""
        onChange={(e) => {
          const thing = unused.find((u) => u.key === e.target.value);
          if (thing) onMore(thing);
        }}
      >
        <option value="">add an ingredient</option>
        {unused.map((u) => (
          <option key={u.key} value={u.key}>
            {u.name}
          </option>
        ))}
      </select>
      <label className="text-ash">
        typing grams keeps{" "}
        <select
          aria-label="What stays when grams are typed"
          className="border-b border-line bg-panel text-soot"
          value={hold}
          onChange={(e) => {
            onHold(e.target.value === "flour" ? "flour" : "dough");
          }}
        >
          <option value="flour">the flour</option>
          <option value="dough">the whole dough</option>
        </select>
      </label>
      <label className="text-ash">
        cups{" "}
        <FillSelect
          label="How a cup of flour is filled"
          value={dough.formula.fill ?? "spooned"}
          onFill={(fill) => {
            onDough({
              ...dough,
              formula: { ...dough.formula, fill },
            });
          }}
        />
      </label>
    </div>
  );
}
