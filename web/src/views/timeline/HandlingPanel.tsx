import { useState, type ReactNode } from "react";
import { AddByName } from "../../ui/AddByName";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { spell } from "../../ui/time";
import { HANDLED, LEAVABLE, withAdded, withHandling, withLeftOut, type Handling } from "./handling";
import type { Told, Words } from "./types";

/** The handling steps: how often the dough is folded, what is done to the base, steps left out and added. A change stays. */
export function HandlingPanel({
  words,
  told,
  onWords,
}: {
  words: Words;
  told: Told;
  onWords: (to: Partial<Words>) => void;
}) {
  const handling: Handling = words.handling ?? {};
  const by = told.ask.by_hand;
  // A second stretching is only in a pan.
  const offered = (key: string) => key !== "relax" || told.ask.shape === "pan";
  const set = (next: Handling) => {
    onWords({ handling: next });
  };
  return (
    <div className="grid content-start gap-1.5">
      <Figure
        label="Folds after mixing"
        value={told.ask.folds ?? 0}
        digits={0}
        step={1}
        wide="w-8"
        unit="folds after mixing"
        bounds={[0, 4]}
        onChange={(folds) => {
          set(withHandling(handling, "folds", Math.round(folds)));
        }}
      />
      {HANDLED.map(({ key, name }) => (
        <Tick
          key={key}
          checked={by?.[key] ?? false}
          onChange={(on) => {
            set(withHandling(handling, key, on));
          }}
        >
          {name}
        </Tick>
      ))}
      <h2 className="mt-1 border-t border-line pt-2 text-[15px] font-bold">Steps</h2>
      {LEAVABLE.filter(({ key }) => offered(key)).map(({ key, name }) => (
        <Tick
          key={key}
          checked={!(handling.left_out ?? []).includes(key)}
          onChange={(on) => {
            set(withLeftOut(handling, key, !on));
          }}
        >
          {name}
        </Tick>
      ))}
      <ul>
        {(handling.added ?? []).map((step, i) => (
          <li key={i} className="flex items-baseline justify-between gap-2">
            <span>
              {step.name}, {spell(step.before_min)} before the table
            </span>
            <Button
              look="link"
              className="text-[13px] text-air"
              aria-label={`Remove ${step.name}`}
              onClick={() => {
                set({ ...handling, added: (handling.added ?? []).filter((_, j) => j !== i) });
              }}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {(handling.added ?? []).length < 12 ? (
        <NewStep
          onAdd={(step) => {
            set(withAdded(handling, step));
          }}
        />
      ) : null}
    </div>
  );
}

function Tick({
  checked,
  onChange,
  children,
}: {
  checked: boolean;
  onChange: (on: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex min-h-8 items-center gap-2">
      <input
        type="checkbox"
        checked={checked}
        onChange={(e) => {
          onChange(e.target.checked);
        }}
      />
      {children}
    </label>
  );
}

/** A step of the cook's own: what, and how long before the table. */
function NewStep({ onAdd }: { onAdd: (step: NonNullable<Handling["added"]>[number]) => void }) {
  const [before, setBefore] = useState(60);
  return (
    <AddByName
      label="A step of your own"
      add="Add the step"
      most={60}
      onAdd={(name) => {
        onAdd({ name, before_min: before, minutes: 5 });
      }}
    >
      <Figure
        label="Minutes before the first pizza is on the table"
        value={before}
        digits={0}
        step={5}
        wide="w-14"
        unit="min before the table"
        bounds={[0, 12960]}
        onChange={setBefore}
      />
    </AddByName>
  );
}
