import { useState } from "react";
import type { Tell } from "../../ui/bakeTypes";
import { Button } from "../../ui/Button";
import { NumberInput } from "../../ui/NumberInput";
import { useUnits } from "../../ui/units";

/** Seconds until a pinch of flour is golden: the least and the most that tell something. */
const GOLDEN_S = [3, 900] as const;

/** Without a thermometer: how long a pinch of flour on the deck takes to turn golden. */
export function FlourReading({ tell }: { tell: Tell }) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const read = () => {
    const seconds = Number(text.replace(",", "."));
    if (text.trim() === "" || !(seconds >= GOLDEN_S[0] && seconds <= GOLDEN_S[1])) {
      setWrong(`Give between ${String(GOLDEN_S[0])} and ${String(GOLDEN_S[1])} seconds.`);
      return;
    }
    setWrong("");
    setText("");
    tell("bake.read", { golden_s: Math.round(seconds), by: "flour" });
  };
  return (
    <form
      className="relative mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        read();
      }}
    >
      <label htmlFor="flour-reading" className="text-[17px]">
        A pinch of flour was golden after
      </label>
      <NumberInput
        id="flour-reading"
        label="Seconds until flour was golden"
        text={text}
        said={wrong}
        onText={setText}
        className="figure min-h-12 w-20 text-[24px]"
      />
      <span>s</span>
      <Button type="submit" className="min-h-12 px-4">
        Add
      </Button>
    </form>
  );
}

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
