import { Figure } from "../../ui/Figure";
import { OUNCE_G, useUnits } from "../../ui/units";
import type { DoughReference } from "../../ui/dough";
import type { Told, Words } from "./types";

export type Pick = NonNullable<Words["picks"]>[number];

/** One topping: how much, where it lies, whether it is treated. */
export function ToppingRow({
  pick,
  kind,
  usualG,
  lot,
  onChange,
  onLeaveOut,
}: {
  pick: Pick;
  kind: DoughReference["toppings"][number] | undefined;
  /** What lies on one pizza where no mass was said. */
  usualG: number;
  /** What is told of it: when it goes on. */
  lot: NonNullable<Told["toppings"]>["lots"][number] | undefined;
  onChange: (to: Partial<Pick>) => void;
  onLeaveOut: () => void;
}) {
  const units = useUnits();
  const us = units.us("mass");
  // What is cooked down is not drained as well.
  const cooked = lot?.raw_g ? units.say(lot.treat) : "";
  const treat = cooked || (kind?.treat ?? (lot?.treat ? units.say(lot.treat) : ""));
  const grams = pick.grams ?? usualG;
  const name = (pick.topping === "own" ? pick.name : kind?.name) ?? pick.topping;
  const canBeTreated = pick.topping === "own" ? pick.wet !== false : Boolean(kind?.treat);
  return (
    <li
      className="grid grid-cols-[1fr_auto_auto_4.6rem_auto] items-baseline gap-x-2 border-t border-line py-1"
      data-pick={pick.topping}
    >
      <span className="leading-tight font-semibold">{name}</span>
      <Figure
        label={`${name} on one pizza`}
        value={us ? grams / OUNCE_G : grams}
        digits={us ? 2 : 0}
        step={us ? 0.2 : 5}
        wide="w-12"
        unit={us ? "oz" : "g"}
        bounds={us ? [0, 70] : [0, 2000]}
        onChange={(value) => {
          onChange({ grams: Math.max(0, Math.min(2000, us ? value * OUNCE_G : value)) });
        }}
      />
      <select
        aria-label={`Where the ${name} lies`}
        className="border-b border-line bg-panel"
        value={pick.half ?? "whole"}
        onChange={(e) => {
          onChange({ half: e.target.value as "whole" | "left" | "right", grams: null });
        }}
      >
        <option value="whole">all over</option>
        <option value="left">left half</option>
        <option value="right">right half</option>
      </select>
      {canBeTreated && !cooked ? (
        <label className="flex items-center gap-1 text-[13px]">
          <input
            type="checkbox"
            checked={pick.treated ?? true}
            onChange={(e) => {
              onChange({ treated: e.target.checked });
            }}
          />
          treated
        </label>
      ) : (
        <span />
      )}
      <button
        type="button"
        aria-label={`Leave out ${name}`}
        className="ml-auto px-1 text-ash hover:text-brick"
        onClick={() => {
          onLeaveOut();
        }}
      >
        ×
      </button>
      <span className="col-span-full text-[13px] leading-snug text-ash">
        {[
          lot?.when ?? "",
          treat ? `${cooked || (pick.treated ?? true) ? "before" : "not done before"}: ${treat}` : "",
        ]
          .filter(Boolean)
          .join("; ")}
      </span>
    </li>
  );
}
