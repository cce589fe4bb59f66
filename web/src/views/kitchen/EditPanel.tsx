import { Button } from "../../ui/Button";
import { Refusal } from "../../api/client";
import { useUnits } from "../../ui/units";
import { Conflict } from "../../ui/Conflict";
import type { Kinds } from "../../ui/kinds";
import { useState } from "react";
import { plain } from "../../ui/Figure";
import { numberIn } from "../../ui/numbers";
import { NumberInput } from "../../ui/NumberInput";
import { kindsOf, type NumberField } from "./fields";
import { valuesOf, type Noun, type Thing, type Values } from "./things";
import { useEdited, type Typed } from "./useEdited";

/** Everything that is known of one thing, to be changed; wrong figures are told at their field. */
export function EditPanel({
  noun,
  kinds,
  values,
  busy,
  problem,
  draft,
  keep,
  onForget,
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
  /** What was typed and not saved yet; null: it is as it is saved. */
  draft: Typed | null;
  keep: (typed: Typed) => void;
  onForget: () => void;
  /** Another window changed it: keep both, mine in its place, or the other; see Conflict. */
  onBoth: (mine: Values) => void;
  onMine: (mine: Values, theirs: Thing) => void;
  onTheirs: (mine: Values) => void;
  onSave: (values: Values) => void;
  onDuplicate: () => void;
  onRetire: () => void;
}) {
  const units = useUnits();
  const { kept, set, numbers, switches, notNumbers, edited } = useEdited(noun, kinds, values, draft, keep);
  const wrongAt = problem instanceof Refusal ? problem.path : "";
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
      {numbers.map((field) => (
        <NumberRow
          key={`${field.key} ${JSON.stringify(units.systems)}`}
          field={field}
          value={String(kept[field.key] ?? "")}
          problem={told(field.key)}
          onChange={(value) => {
            set(field.key, value);
          }}
        />
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
        <Button type="submit" look="press" disabled={busy || theirs !== null}>
          Keep
        </Button>
        {draft ? <Button onClick={onForget}>As it was</Button> : null}
        <Button onClick={onDuplicate}>Duplicate</Button>
        <Button onClick={onRetire}>Retire</Button>
      </div>
    </form>
  );
}

/** One figure of a thing; what is wrong with it stands under it. */
function NumberRow({
  field,
  value,
  problem,
  onChange,
}: {
  field: NumberField;
  value: string;
  problem: string | null;
  onChange: (value: string) => void;
}) {
  const { key, name, open } = field;
  const { unit, shown, kept } = useUnits().as(field.unit);
  const [typed, setTyped] = useState<string | null>(null);
  const number = numberIn(value);
  const text = typed ?? (number === null || Number.isNaN(number) ? value : plain(shown(number), 2));
  return (
    <label className="grid gap-0.5">
      <span className="flex items-baseline justify-between gap-2">
        <span className="text-ash">{name}</span>
        <span className="whitespace-nowrap">
          <NumberInput
            label={`${name}${unit ? `, ${unit}` : ""}`}
            className="field w-20 px-2 py-1 text-right"
            placeholder={open ? (key === "coating_limit_c" ? "bare" : "usual") : undefined}
            text={text}
            said={problem !== null}
            onText={(next) => {
              setTyped(next);
              const said = numberIn(next);
              onChange(said === null || Number.isNaN(said) ? next : String(Number(kept(said).toFixed(4))));
            }}
            onBlur={() => {
              setTyped(null);
            }}
          />{" "}
          <span className="inline-block w-6">{unit}</span>
        </span>
      </span>
      {problem ? (
        <span role="alert" className="text-brick">
          {problem}
        </span>
      ) : null}
    </label>
  );
}
