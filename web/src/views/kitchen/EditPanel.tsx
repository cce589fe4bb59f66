import { useState } from "react";
import { Refusal } from "../../api/client";
import { useUnits } from "../../ui/units";
import { Conflict } from "../../ui/Conflict";
import { hearthKind, type Kinds } from "../../ui/kinds";
import { kindsOf, numbersOf, switchesOf } from "./fields";
import { valuesOf, type Noun, type Thing, type Values } from "./things";

/** Everything that is known of one thing, to be changed; wrong figures are told at their field. */
export function EditPanel({
  noun,
  kinds,
  values,
  busy,
  problem,
  onTouch,
  onBoth,
  onMine,
  onTheirs,
  onSave,
  onDuplicate,
  onRetire,
}: {
  noun: Noun;
  kinds: Kinds;
  values: Values;
  busy: boolean;
  problem: Error | null;
  /** The first edit: from now on the form keeps to what it began from. */
  onTouch: () => void;
  /** Another window changed it: keep both, mine in its place, or the other; see Conflict. */
  onBoth: (mine: Values) => void;
  onMine: (mine: Values, theirs: Thing) => void;
  onTheirs: (mine: Values) => void;
  onSave: (values: Values) => void;
  onDuplicate: () => void;
  onRetire: () => void;
}) {
  const units = useUnits();
  const [kept, setKept] = useState<Record<string, string | boolean>>(() => {
    const start: Record<string, string | boolean> = {};
    for (const [key, value] of Object.entries(values))
      start[key] = typeof value === "boolean" ? value : value === null ? "" : String(value);
    return start;
  });
  const kind = String(kept["kind"] ?? "");
  const heat = noun === "hearths" ? hearthKind(kinds, kind) : undefined;
  const numbers = numbersOf(noun, heat);
  const switches = switchesOf(noun, heat);
  const wrongAt = problem instanceof Refusal ? problem.path : "";
  const set = (key: string, value: string | boolean) => {
    onTouch();
    setKept({ ...kept, [key]: value });
  };
  const numberOf = (key: string) =>
    Number(
      String(kept[key] ?? "")
        .trim()
        .replace(",", "."),
    );
  const empty = (key: string) => String(kept[key] ?? "").trim() === "";
  const notNumbers = numbers.filter(
    ({ key, open }) => (empty(key) && open !== true) || (!empty(key) && Number.isNaN(numberOf(key))),
  );
  const edited = (): Values => {
    const next: Record<string, unknown> = { ...values, name: kept["name"], kind };
    for (const { key } of numbers) next[key] = empty(key) ? null : numberOf(key);
    for (const [key] of switches) next[key] = kept[key];
    // What this kind has not is not sent along from the kind it was.
    if (heat && heat.heat !== "dial")
      Object.assign(next, { levels: 1, has_fan: false, top_element_kw: 0, top_element_usable: false });
    if (heat && heat.heat !== "fire" && Number(next["max_setpoint_c"]) > 350)
      if (!numbers.some(({ key }) => key === "max_setpoint_c")) next["max_setpoint_c"] = 250;
    return next as unknown as Values;
  };
  const theirs = problem instanceof Refusal && problem.conflict ? (problem.now as Thing) : null;
  const told = (key: string) => {
    if (notNumbers.some((n) => n.key === key)) return "Give a number.";
    if (problem && (wrongAt === key || wrongAt.endsWith(`.${key}`))) return units.say(problem.message);
    return null;
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (notNumbers.length === 0) onSave(edited());
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
        <span className="text-ash">{noun === "hearths" || noun === "instruments" ? "kind" : "made of"}</span>
        <select
          className="field px-2 py-1.5"
          value={String(kept["kind"])}
          onChange={(e) => {
            set("kind", e.target.value);
          }}
        >
          {kindsOf(noun, kinds).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {numbers.map(({ key, name, unit, open }) => (
        <label key={key} className="grid gap-0.5">
          <span className="flex items-baseline justify-between gap-2">
            <span className="text-ash">{name}</span>
            <span>
              <input
                inputMode="decimal"
                aria-label={`${name}${unit ? `, ${unit}` : ""}`}
                aria-invalid={told(key) !== null || undefined}
                className="field w-20 px-2 py-1 text-right"
                placeholder={open ? (key === "coating_limit_c" ? "bare" : "usual") : undefined}
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
      {switches.map(([key, name]) => (
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
      ))}
      {problem && !numbers.some(({ key }) => told(key)) && !told("name") ? (
        <p role="alert" className="text-brick">
          {units.say(problem.message)}{" "}
        </p>
      ) : null}
      {theirs ? (
        <Conflict
          noun={noun.replace(/s$/, "")}
          mine={edited()}
          theirs={valuesOf(noun, theirs)}
          busy={busy}
          onBoth={() => {
            onBoth(edited());
          }}
          onMine={() => {
            onMine(edited(), theirs);
          }}
          onTheirs={() => {
            onTheirs(edited());
          }}
        />
      ) : null}
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="press" disabled={busy || theirs !== null}>
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
