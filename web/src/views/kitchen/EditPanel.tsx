import { useState } from "react";
import { Refusal } from "../../api/client";
import type { HearthIn, Noun, SupportIn, Values } from "./things";

const KINDS: Record<Noun, readonly (readonly [string, string])[]> = {
  hearths: [
    ["electric_oven", "electric oven"],
    ["gas_oven", "gas oven"],
    ["countertop_oven", "countertop oven"],
  ],
  surfaces: [
    ["stone", "stone"],
    ["steel", "steel"],
    ["firebrick", "firebrick"],
    ["upturned_tray", "upturned tray"],
  ],
  pans: [
    ["cast_iron", "cast iron, round"],
    ["dark_aluminium", "dark aluminium"],
    ["bright_aluminium", "bright aluminium"],
    ["blue_steel", "blue steel"],
    ["thin_tray", "thin tray"],
  ],
};

/** A field of the form: its key, its words, its unit. */
type NumberField = readonly [string, string, string];
const HEARTH_NUMBERS: readonly NumberField[] = [
  ["max_setpoint_c", "dial goes to", "°C"],
  ["levels", "rack levels", ""],
  ["dial_error_k", "really differs from the dial by", "K"],
  ["power_kw", "heating power", "kW"],
  ["top_element_kw", "top element (0: none)", "kW"],
];
const SUPPORT_NUMBERS: readonly NumberField[] = [
  ["thickness_mm", "thickness", "mm"],
  ["width_cm", "width", "cm"],
  ["depth_cm", "depth", "cm"],
];
const HEARTH_SWITCHES: readonly (readonly [string, string])[] = [
  ["top_element_usable", "the top element works with the door shut"],
  ["has_fan", "it has a fan"],
  ["fan_can_be_off", "the fan can be switched off"],
];

/** Everything that is known of one thing, to be changed; wrong figures are told at their field. */
export function EditPanel({
  noun,
  values,
  busy,
  problem,
  onSave,
  onDuplicate,
  onRetire,
}: {
  noun: Noun;
  values: Values;
  busy: boolean;
  problem: Error | null;
  onSave: (values: Values) => void;
  onDuplicate: () => void;
  onRetire: () => void;
}) {
  const numbers = noun === "hearths" ? HEARTH_NUMBERS : SUPPORT_NUMBERS;
  const [kept, setKept] = useState<Record<string, string | boolean>>(() => {
    const start: Record<string, string | boolean> = {};
    for (const [key, value] of Object.entries(values))
      start[key] = typeof value === "boolean" ? value : String(value);
    return start;
  });
  const wrongAt = problem instanceof Refusal ? problem.path : "";
  const set = (key: string, value: string | boolean) => {
    setKept({ ...kept, [key]: value });
  };
  const numberOf = (key: string) =>
    Number(
      String(kept[key] ?? "")
        .trim()
        .replace(",", "."),
    );
  const notNumbers = numbers.filter(
    ([key]) => String(kept[key] ?? "").trim() === "" || Number.isNaN(numberOf(key)),
  );
  const submit = () => {
    const next: Record<string, unknown> = { ...values, name: kept["name"], kind: kept["kind"] };
    for (const [key] of numbers) next[key] = numberOf(key);
    if (noun === "hearths") for (const [key] of HEARTH_SWITCHES) next[key] = kept[key];
    onSave(next as unknown as HearthIn | SupportIn);
  };
  const told = (key: string) => {
    if (notNumbers.some(([k]) => k === key)) return "Give a number.";
    if (problem && (wrongAt === key || wrongAt.endsWith(`.${key}`))) return problem.message;
    return null;
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (notNumbers.length === 0) submit();
      }}
    >
      <label className="grid gap-0.5">
        <span className="text-ash">name</span>
        <input
          className="field px-2 py-1.5 text-[15px]"
          value={String(kept["name"] ?? "")}
          maxLength={60}
          onChange={(e) => {
            set("name", e.target.value);
          }}
        />
        {told("name") ? (
          <span role="alert" className="text-brick">
            {told("name")}
          </span>
        ) : null}
      </label>
      <label className="grid gap-0.5">
        <span className="text-ash">{noun === "hearths" ? "kind" : "made of"}</span>
        <select
          className="field px-2 py-1.5"
          value={String(kept["kind"])}
          onChange={(e) => {
            set("kind", e.target.value);
          }}
        >
          {KINDS[noun].map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {numbers.map(([key, name, unit]) => (
        <label key={key} className="grid gap-0.5">
          <span className="flex items-baseline justify-between gap-2">
            <span className="text-ash">{name}</span>
            <span>
              <input
                inputMode="decimal"
                aria-label={`${name}${unit ? `, ${unit}` : ""}`}
                aria-invalid={told(key) !== null || undefined}
                className="field w-20 px-2 py-1 text-right"
                value={String(kept[key] ?? "")}
                onChange={(e) => {
                  set(key, e.target.value);
                }}
              />{" "}
              <span className="inline-block w-6">{unit}</span>
            </span>
          </span>
          {told(key) ? (
            <span role="alert" className="text-brick">
              {told(key)}
            </span>
          ) : null}
        </label>
      ))}
      {noun === "hearths"
        ? HEARTH_SWITCHES.map(([key, name]) => (
            <label key={key} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={kept[key] === true}
                onChange={(e) => {
                  set(key, e.target.checked);
                }}
              />
              {name}
            </label>
          ))
        : null}
      {problem && !numbers.some(([key]) => told(key)) && !told("name") ? (
        <p role="alert" className="text-brick">
          {problem.message}
        </p>
      ) : null}
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="press" disabled={busy}>
          Keep
        </button>
        <button type="button" className="quiet" onClick={onDuplicate}>
          Duplicate
        </button>
        <button type="button" className="quiet" onClick={onRetire}>
          Retire
        </button>
      </div>
    </form>
  );
}
