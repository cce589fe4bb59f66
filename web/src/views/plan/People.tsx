import { useEffect, useState } from "react";

/** For how many, typed into the sentence. */
export function People({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  useEffect(() => {
    setText(String(value));
  }, [value]);
  const number = Number(text);
  const wrong = !(Number.isInteger(number) && number >= 1 && number <= 24);
  return (
    <span className="relative">
      <input
        aria-label="people"
        data-part="people"
        inputMode="numeric"
        className="w-[1.6em] border-b-[2.5px] border-brick bg-transparent text-center font-bold"
        value={text}
        aria-invalid={wrong || undefined}
        aria-describedby={wrong ? "people-wrong" : undefined}
        onChange={(e) => {
          setText(e.target.value);
          const next = Number(e.target.value);
          if (Number.isInteger(next) && next >= 1 && next <= 24) onChange(next);
        }}
      />
      {wrong ? (
        <span
          id="people-wrong"
          role="alert"
          className="leaf absolute top-full left-0 z-10 mt-1 w-56 p-2 font-sans text-[13px] text-brick"
        >
          Give a whole number of people from 1 to 24.
        </span>
      ) : null}
    </span>
  );
}
