import { useRef } from "react";
import { crustColour, crustWord, inkOn, type Reference } from "./crust";

/** What a look is matched with, L*: about three quarters of a word apart; cheese ends at its blisters. */
const CRUST_L = [82, 76, 70, 64, 58, 52, 46, 38];
const CHEESE_L = [82, 78, 74, 70, 67, 64, 61, 58];
export const SWATCHES = [
  ["base", CRUST_L],
  ["rim", CRUST_L],
  ["cheese", CHEESE_L],
] as const;

/** The swatches of a part with their words and colours. */
export function shadesOf(reference: Reference, part: string, row: readonly number[]) {
  const words = part === "cheese" ? reference.cheese_words : reference.words;
  return row.map((l) => ({ l, word: crustWord(words, l), colour: crustColour(reference.ramp, l) }));
}

/** One part on the crust's own ramp: one tap says what is seen, arrows go along the row. */
export function SwatchRow({
  part,
  shades,
  chosen,
  note = "",
  see,
}: {
  part: string;
  shades: readonly { l: number; word: string; colour: string }[];
  chosen: number | null;
  /** How it is known, where not by eye. */
  note?: string;
  see: (l: number) => void;
}) {
  const row = useRef<HTMLDivElement>(null);
  const step = (by: number) => {
    const buttons = [...(row.current?.querySelectorAll("button") ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    buttons[Math.min(buttons.length - 1, Math.max(0, at + by))]?.focus();
  };
  return (
    <div className="mt-1.5">
      <p className="flex items-baseline justify-between">
        <span className="text-[17px]">{part}</span>
        <span className="text-[16px] font-bold">
          {chosen === null ? "" : shades.find((one) => one.l === chosen)?.word}
          {note ? <span className="font-normal text-ash"> · {note}</span> : null}
        </span>
      </p>
      <div
        ref={row}
        role="group"
        aria-label={`The ${part} looks`}
        className="flex"
        onKeyDown={(e) => {
          if (e.key !== "ArrowLeft" && e.key !== "ArrowRight") return;
          e.preventDefault();
          step(e.key === "ArrowRight" ? 1 : -1);
        }}
      >
        {shades.map((one) => (
          <button
            key={one.l}
            type="button"
            aria-label={`${part} ${one.word}, L* ${String(one.l)}`}
            aria-pressed={chosen === one.l}
            data-testid={`see-${part}-${String(one.l)}`}
            className={`h-12 min-w-0 flex-1 text-[18px] font-bold ${chosen === one.l ? "outline-4 -outline-offset-4 outline-soot" : ""}`}
            style={{ background: one.colour, color: inkOn(one.l) }}
            onClick={() => {
              see(one.l);
            }}
          >
            {chosen === one.l ? "✓" : ""}
          </button>
        ))}
      </div>
      <p aria-hidden className="flex justify-between text-[12.5px] text-ash">
        <span>{shades[0]?.word}</span>
        <span>{shades[3]?.word}</span>
        <span>{shades.at(-1)?.word}</span>
      </p>
    </div>
  );
}
