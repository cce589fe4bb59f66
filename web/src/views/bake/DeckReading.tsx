import { useState } from "react";
import type { Tell } from "../../ui/bakeTypes";
import { Button } from "../../ui/Button";
import { NumberInput } from "../../ui/NumberInput";
import { useUnits } from "../../ui/units";

/** A number that is typed and added: what it is, its bounds, and what is said where it is outside them. */
function ReadingForm({
  id,
  words,
  label,
  unit,
  add,
  kept,
  bounds,
  said,
  onAdd,
}: {
  id: string;
  words: string;
  label: string;
  unit: string;
  add: string;
  /** The number as it is kept, of what was typed. */
  kept: (typed: number) => number;
  bounds: readonly [number, number];
  said: string;
  onAdd: (value: number) => void;
}) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const read = () => {
    const value = kept(Number(text.replace(",", ".")));
    if (text.trim() === "" || !(value >= bounds[0] && value <= bounds[1])) {
      setWrong(said);
      return;
    }
    setWrong("");
    setText("");
    onAdd(value);
  };
  return (
    <form
      className="relative mt-3 flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        read();
      }}
    >
      <label htmlFor={id} className="text-[17px]">
        {words}
      </label>
      <NumberInput
        id={id}
        label={label}
        text={text}
        said={wrong}
        onText={setText}
        className="figure min-h-12 w-24 text-[24px]"
      />
      <span>{unit}</span>
      <Button type="submit" className="min-h-12 px-4">
        {add}
      </Button>
    </form>
  );
}

/** Seconds until a pinch of flour is golden: the least and the most that tell something. */
const GOLDEN_S = [3, 900] as const;
/** What a deck is read between, C. */
const DECK_C = [-40, 700] as const;

/** Without a thermometer: how long a pinch of flour on the deck takes to turn golden. */
export function FlourReading({ tell }: { tell: Tell }) {
  return (
    <ReadingForm
      id="flour-reading"
      words="Flour golden after"
      label="Seconds until flour was golden"
      unit="s"
      add="Add"
      kept={(seconds) => seconds}
      bounds={GOLDEN_S}
      said={`Give between ${String(GOLDEN_S[0])} and ${String(GOLDEN_S[1])} seconds.`}
      onAdd={(seconds) => {
        tell("bake.read", { golden_s: Math.round(seconds), by: "flour" });
      }}
    />
  );
}

/** What an instrument showed, typed. */
export function DeckReading({ tell }: { tell: Tell }) {
  const units = useUnits();
  return (
    <ReadingForm
      id="deck-reading"
      words="I read"
      label="Deck reading"
      unit={units.as("°C").unit}
      add="Tell it"
      kept={units.as("°C").kept}
      bounds={DECK_C}
      said={`A deck is read between ${units.temp(DECK_C[0])} and ${units.temp(DECK_C[1])}.`}
      onAdd={(celsius) => {
        tell("bake.read", { deck_c: Math.round(celsius * 10) / 10 });
      }}
    />
  );
}
