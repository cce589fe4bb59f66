import { useEffect, useState } from "react";
import { clockRead, clockWhole } from "./moment";

/** A clock time in a sentence: 19:30, whatever the browser's own way of writing it; typed as 19.30, 1930 or 7pm too. */
export function ClockField({
  label,
  value,
  onChange,
  small = false,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Of a list of settings, not of a sentence. */
  small?: boolean;
}) {
  const [text, setText] = useState(value);
  useEffect(() => {
    setText((was) => (clockRead(was) === value ? was : value));
  }, [value]);
  // Half a time is no mistake yet.
  const [typing, setTyping] = useState(false);
  const read = clockRead(text);
  const wrong = read === null && (!typing || !/^\d{0,2}[:.h]?\d?$/.test(text.trim()));
  const take = () => {
    setTyping(false);
    if (read === null) return;
    setText(read);
    if (read !== value) onChange(read);
  };
  return (
    <span className="relative">
      <input
        aria-label={label}
        className={small ? "figure w-14" : "w-[2.9em] border-b-[2.5px] border-brick bg-transparent font-bold"}
        value={text}
        aria-invalid={wrong || undefined}
        onFocus={() => {
          setTyping(true);
        }}
        onChange={(e) => {
          setText(e.target.value);
          const whole = clockWhole(e.target.value) ? clockRead(e.target.value) : null;
          if (whole !== null && whole !== value) onChange(whole);
        }}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === "Enter") take();
        }}
      />
      {!wrong ? null : (
        <span
          role="alert"
          className="leaf absolute top-full left-0 z-10 mt-1 w-52 p-2 font-sans text-[13px] tracking-normal text-brick"
        >
          Give a clock time, as 19:30, 1930 or 7pm.
        </span>
      )}
    </span>
  );
}
