import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { NumberInput } from "./NumberInput";
import { numberIn } from "./numbers";

/** A number to be typed in place: what is typed stays as typed until the field is left. */
export function Figure({
  label,
  value,
  digits,
  onBegin,
  onChange,
  problem,
  step,
  wide = "w-16",
  disabled = false,
  unit,
  bounds,
}: {
  label: string;
  value: number;
  digits: number;
  /** Called when the cook begins to type: what an edit starts from. */
  onBegin?: () => void;
  onChange: (value: number) => void;
  /** Why the last number was refused. */
  problem?: string | undefined;
  step: number;
  wide?: string;
  disabled?: boolean;
  unit?: string;
  /** The least and the most it can be; outside, that is said and nothing changes. */
  bounds?: readonly [number, number];
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  // What was typed and not yet given on: a field that is left gives it at once.
  const pending = useRef<number | null>(null);
  useEffect(
    () => () => {
      clearTimeout(timer.current);
    },
    [],
  );
  const shown = typed ?? plain(value, digits);
  const number = numberIn(shown) ?? NaN;
  const wrong = typed !== null && Number.isNaN(number);
  const outside = (n: number) => bounds !== undefined && (n < bounds[0] || n > bounds[1]);
  const said = wrong
    ? "a number, please"
    : typed !== null && bounds && outside(number)
      ? `from ${plain(bounds[0], digits)} to ${plain(bounds[1], digits)}`
      : problem;
  const type = (text: string) => {
    setTyped(text);
    clearTimeout(timer.current);
    pending.current = null;
    const next = numberIn(text);
    if (next === null || Number.isNaN(next) || outside(next)) return;
    pending.current = next;
    timer.current = setTimeout(() => {
      pending.current = null;
      onChange(next);
    }, 180);
  };
  /** What was typed is given on now, where it is not yet. */
  const give = () => {
    const next = pending.current;
    clearTimeout(timer.current);
    pending.current = null;
    if (next !== null) onChange(next);
  };
  const onKeyDown = (e: KeyboardEvent<HTMLInputElement>) => {
    const by = e.key === "ArrowUp" ? 1 : e.key === "ArrowDown" ? -1 : 0;
    if (e.key === "Escape") {
      clearTimeout(timer.current);
      pending.current = null;
      setTyped(null);
    }
    if (e.key === "Enter") give();
    if (!by || wrong) return;
    e.preventDefault();
    type(plain(Math.max(bounds?.[0] ?? 0, number + by * step * (e.shiftKey ? 10 : 1)), digits));
  };
  return (
    <span className="relative inline-flex items-baseline gap-1">
      <NumberInput
        label={label}
        text={shown}
        said={said}
        className={`figure ${wide}`}
        disabled={disabled}
        onText={type}
        onFocus={(e) => {
          onBegin?.();
          e.target.select();
        }}
        onBlur={() => {
          give();
          if (!said) setTyped(null);
        }}
        onKeyDown={onKeyDown}
      />
      {unit ? <span className="text-ash">{unit}</span> : null}
    </span>
  );
}

/** Without trailing zeros. */
export function plain(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}
