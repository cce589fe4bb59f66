import { useState } from "react";
import type { Tell } from "../../ui/bakeTypes";
import { Button } from "../../ui/Button";
import { NumberInput } from "../../ui/NumberInput";
import { useUnits } from "../../ui/units";

/** What an instrument showed, typed. */
export function DeckReading({ tell }: { tell: Tell }) {
  const units = useUnits();
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const read = () => {
    const typed = Number(text.replace(",", "."));
    const celsius = units.as("°C").kept(typed);
    if (text.trim() === "" || !Number.isFinite(typed) || celsius < -40 || celsius > 700) {
      setWrong(`A deck is read between ${units.temp(-40)} and ${units.temp(700)}.`);
      return;
    }
    setWrong("");
    setText("");
    tell("bake.read", { deck_c: Math.round(celsius * 10) / 10 });
  };
  return (
    <form
      className="relative mt-4 flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        read();
      }}
    >
      <label htmlFor="deck-reading" className="text-[17px]">
        I read
      </label>
      <NumberInput
        id="deck-reading"
        label="Deck reading"
        text={text}
        said={wrong}
        onText={setText}
        className="figure min-h-12 w-24 text-[24px]"
      />
      <span>{units.as("°C").unit}</span>
      <Button type="submit" className="min-h-12 px-4">
        Tell it
      </Button>
    </form>
  );
}
