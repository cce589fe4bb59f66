import { useState } from "react";
import { NumberInput } from "../../ui/NumberInput";
import { numberIn } from "../../ui/numbers";
import { useUnits } from "../../ui/units";

/** A length or temperature typed in the cook's own unit; kept as typed until it is one. */
export function Measure({
  label,
  unit,
  value,
  bounds,
  onChange,
}: {
  label: string;
  unit: "cm" | "C";
  /** In cm or C. */
  value: number;
  bounds: readonly [number, number];
  onChange: (value: number) => void;
}) {
  const { unit: name, shown: inUnit, kept } = useUnits().as(unit === "C" ? "°C" : unit);
  const shown = (of: number) => String(Math.round(inUnit(of) * 10) / 10);
  const [text, setText] = useState<string | null>(null);
  const inside = (typed: string): number | null => {
    const number = numberIn(typed);
    if (number === null || Number.isNaN(number)) return null;
    const of = kept(number);
    return of >= bounds[0] - 0.05 && of <= bounds[1] + 0.05
      ? Math.min(bounds[1], Math.max(bounds[0], of))
      : null;
  };
  const wrong = text !== null && inside(text) === null;
  return (
    <label className="relative inline-flex items-baseline gap-1">
      {label}
      <NumberInput
        label={label}
        className="w-14 border-b border-ash bg-transparent text-center font-bold"
        text={text ?? shown(value)}
        said={wrong ? `Give ${shown(bounds[0])} to ${shown(bounds[1])} ${name}.` : null}
        onText={(typed) => {
          setText(typed);
          const of = inside(typed);
          if (of !== null) onChange(Math.round(of * 100) / 100);
        }}
        onBlur={() => {
          if (!wrong) setText(null);
        }}
      />
      {name}
    </label>
  );
}
