import { useEffect, useState } from "react";
import { NumberInput } from "../../ui/NumberInput";
import { isNumber, numberIn } from "../../ui/numbers";

const BOUNDS = [1, 24] as const;

/** For how many, typed into the sentence. */
export function People({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  useEffect(() => {
    setText(String(value));
  }, [value]);
  const right = (of: string) => isNumber(of, BOUNDS) && Number.isInteger(numberIn(of));
  return (
    <span className="relative">
      <NumberInput
        label="people"
        data-part="people"
        inputMode="numeric"
        className="w-[1.6em] border-b-[2.5px] border-brick bg-transparent text-center font-bold"
        text={text}
        said={right(text) ? null : "Give a whole number of people from 1 to 24."}
        onText={(typed) => {
          setText(typed);
          if (right(typed)) onChange(numberIn(typed) ?? value);
        }}
      />
    </span>
  );
}
