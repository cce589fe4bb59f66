import { FoldDown } from "./FoldDown";
import { useState, type ReactNode } from "react";

export interface Choice<T> {
  value: T;
  label: string;
  note?: string;
  swatch?: string;
}

/** A word of a sentence that opens its choices in place. */
export function Picker<T extends string | number | null>({
  label,
  shown,
  value,
  choices,
  onPick,
  id,
  more,
  cautions = [],
}: {
  label: string;
  shown: string;
  value: T;
  choices: readonly Choice<T>[];
  onPick: (value: T) => void;
  id?: string;
  more?: ReactNode;
  /** Cautions that belong to this part: marked in the sentence, told in the picker. */
  cautions?: readonly string[];
}) {
  const [open, setOpen] = useState(false);
  return (
    <FoldDown
      id={id}
      part={label}
      label={`Choose: ${label}`}
      said={[`${label}: ${shown}`, ...cautions].join(". ")}
      open={open}
      onOpenChange={setOpen}
      className="max-h-[70vh] w-80 overflow-y-auto p-2"
      shown={
        <>
          {shown}
          {cautions.length > 0 ? (
            <span aria-hidden className="text-brick" title={cautions.join(" ")}>
              !
            </span>
          ) : null}
        </>
      }
    >
      <Options
        label={label}
        value={value}
        choices={choices}
        onPick={(picked) => {
          onPick(picked);
          setOpen(false);
        }}
      />
      {more}
      {cautions.map((text) => (
        <p
          key={text}
          className="mt-2 border-l-2 border-brick px-2 text-[13px] leading-snug font-semibold text-brick"
        >
          {text}
        </p>
      ))}
    </FoldDown>
  );
}

/** Choices below each other, walked by the arrow keys. */
export function Options<T extends string | number | null>({
  label,
  value,
  choices,
  onPick,
}: {
  label: string;
  value: T;
  choices: readonly Choice<T>[];
  onPick: (value: T) => void;
}) {
  return (
    <ul role="listbox" aria-label={label} className="grid">
      {choices.map((choice) => {
        const chosen = choice.value === value;
        return (
          <li key={String(choice.value)} role="presentation">
            <button
              type="button"
              role="option"
              aria-selected={chosen}
              className={`flex w-full items-center gap-3 px-3 py-2 text-left hover:bg-brick-wash ${chosen ? "bg-brick-wash" : ""}`}
              onClick={() => {
                onPick(choice.value);
              }}
              onKeyDown={(e) => {
                const step = e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0;
                if (!step) return;
                e.preventDefault();
                const all = [...(e.currentTarget.closest("ul")?.querySelectorAll("button") ?? [])];
                all[all.indexOf(e.currentTarget) + step]?.focus();
              }}
            >
              {choice.swatch ? (
                <span aria-hidden className="size-6 shrink-0" style={{ background: choice.swatch }} />
              ) : null}
              <span>
                <span className={chosen ? "font-bold" : "font-semibold"}>{choice.label}</span>
                {choice.note ? <span className="block text-[13px] text-ash">{choice.note}</span> : null}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
