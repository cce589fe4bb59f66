import type { DoughInput } from "./types";

export type Fill = NonNullable<DoughInput["formula"]["fill"]>;

const FILLS: readonly (readonly [Fill, string])[] = [
  ["spooned", "spooned in"],
  ["dipped", "dipped"],
  ["sifted", "sifted"],
];

/** How a cup is filled: what it holds depends on it. */
export function FillSelect({
  label,
  value,
  onFill,
}: {
  label: string;
  value: Fill;
  onFill: (fill: Fill) => void;
}) {
  return (
    <select
      aria-label={label}
      className="border-b border-line bg-panel text-soot"
      value={value}
      onChange={(e) => {
        onFill(e.target.value as Fill);
      }}
    >
      {FILLS.map(([key, name]) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </select>
  );
}
