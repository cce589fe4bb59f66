import { useEffect, useState } from "react";
import { momentRead, momentSaid, type Lean } from "./moment";
import { HERE, nowIn } from "./time";

/** A day and a time, typed as people say them: "sat 1930", "yesterday 7pm", "28 nov 19.30", "0730". */
export function MomentField({
  label,
  value,
  lean,
  zone = HERE,
  big = false,
  onChange,
}: {
  label: string;
  /** Local, yyyy-mm-ddThh:mm; empty: none yet. */
  value: string;
  lean: Lean;
  zone?: string;
  /** A field of a form, not one in a sentence. */
  big?: boolean;
  onChange: (value: string) => void;
}) {
  const today = nowIn(zone);
  const said = momentSaid(value, today);
  const [text, setText] = useState(said);
  const [typing, setTyping] = useState(false);
  useEffect(() => {
    if (!typing) setText(said);
  }, [said, typing]);
  const read = momentRead(text, value, today, lean);
  const wrong = text.trim() !== "" && read === null;
  const take = () => {
    setTyping(false);
    if (read !== null && read !== value) onChange(read);
    else if (read !== null) setText(said);
  };
  return (
    <span className="relative inline-block">
      <input
        aria-label={label}
        className={big ? "field w-full" : "figure w-40 !text-left"}
        value={text}
        placeholder="sat 19.30"
        aria-invalid={(wrong && !typing) || undefined}
        onFocus={() => {
          setTyping(true);
        }}
        onChange={(e) => {
          setText(e.target.value);
        }}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === "Enter") {
            e.preventDefault();
            take();
          }
        }}
      />
      {typing && read !== null && momentSaid(read, today) !== text ? (
        <span
          className="leaf absolute top-full left-0 z-10 mt-1 p-1.5 text-[13px] whitespace-nowrap text-ash"
          role="status"
        >
          {momentSaid(read, today)}
        </span>
      ) : null}
      {wrong && !typing ? (
        <span
          role="alert"
          className="leaf absolute top-full left-0 z-10 mt-1 w-56 p-2 text-[13px] text-brick"
        >
          Give a day and a time, as sat 19.30, yesterday 7pm or 28 nov 0730.
        </span>
      ) : null}
    </span>
  );
}
