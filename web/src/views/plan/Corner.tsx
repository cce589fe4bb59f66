import { Button } from "../../ui/Button";
import { useState } from "react";
import { NumberInput } from "../../ui/NumberInput";
import { numberIn } from "../../ui/numbers";
import { useUnits } from "../../ui/units";

/** Two small buttons for a figure that is stepped. */
export function Stepper({ label, onStep }: { label: string; onStep: (direction: 1 | -1) => void }) {
  return (
    <span className="ml-1.5 inline-flex gap-1">
      <Button
        aria-label={`${label} lower`}
        className="!px-2 !py-0"
        onClick={() => {
          onStep(-1);
        }}
      >
        −
      </Button>
      <Button
        aria-label={`${label} higher`}
        className="!px-2 !py-0"
        onClick={() => {
          onStep(1);
        }}
      >
        +
      </Button>
    </span>
  );
}

/** A thermometer's reading of the deck at launch, in the units shown; empty means none. */
export function DeckReading({
  value,
  onChange,
}: {
  value: number | null;
  onChange: (celsius: number | null) => void;
}) {
  const { unit, shown: shownAs, kept } = useUnits().as("°C");
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (value === null ? "" : String(Math.round(shownAs(value))));
  const celsiusIn = (typed: string) => {
    const number = numberIn(typed);
    return number === null ? null : kept(number);
  };
  const celsius = celsiusIn(shown);
  const wrong = celsius !== null && !(celsius >= 10 && celsius <= 550);
  return (
    <label className="flex flex-wrap items-baseline gap-x-1.5">
      my thermometer says the deck is at
      <NumberInput
        label="deck reading"
        className="w-12 border-b border-ash bg-transparent text-center font-bold"
        text={shown}
        said={wrong}
        onText={(typed) => {
          setText(typed);
          const c = celsiusIn(typed);
          if (c === null) onChange(null);
          else if (c >= 10 && c <= 550) onChange(Math.round(c * 10) / 10);
        }}
        onBlur={() => {
          if (!wrong) setText(null);
        }}
      />
      {unit}
      {wrong ? (
        <span role="alert" className="text-brick">
          Give a temperature from {shownAs(10)} to {shownAs(550)} {unit}, or leave it empty.
        </span>
      ) : null}
    </label>
  );
}
