import { useEffect, useState } from "react";

/** A clock time in a sentence: 19:30, whatever the browser's own way of writing it. */
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
    setText(value);
  }, [value]);
  const good = (t: string) => /^([01]?\d|2[0-3]):[0-5]\d$/.test(t);
  return (
    <span className="relative">
      <input
        aria-label={label}
        className={small ? "figure w-14" : "w-[2.9em] border-b-[2.5px] border-brick bg-transparent font-bold"}
        value={text}
        aria-invalid={!good(text) || undefined}
        onChange={(e) => {
          setText(e.target.value);
          if (good(e.target.value)) onChange(e.target.value.padStart(5, "0"));
        }}
      />
      {good(text) ? null : (
        <span
          role="alert"
          className="leaf absolute top-full left-0 z-10 mt-1 w-52 p-2 font-sans text-[13px] tracking-normal text-brick"
        >
          Give a clock time, as 19:30.
        </span>
      )}
    </span>
  );
}
