import { useState } from "react";
import { Button } from "../../ui/Button";
import type { Pick } from "./ToppingRow";

const WHEN = [
  ["over", "over the cheese"],
  ["under", "under the cheese"],
  ["after", "after the bake"],
] as const;

/** A topping of the cook's own: what it is, whether it is wet, when it goes on. Its amount is typed in its row. */
export function OwnTopping({ onAdd }: { onAdd: (pick: Pick) => void }) {
  const [name, setName] = useState("");
  const [wet, setWet] = useState(true);
  const [goesOn, setGoesOn] = useState<(typeof WHEN)[number][0]>("over");
  const trimmed = name.trim();
  return (
    <form
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!trimmed) return;
        onAdd({
          topping: "own",
          name: trimmed,
          wet,
          goes_on: goesOn,
          grams: null,
          half: "whole",
          treated: true,
        });
        setName("");
      }}
    >
      <input
        aria-label="Another topping"
        className="field min-h-8 w-36 px-2"
        placeholder="another topping"
        maxLength={40}
        value={name}
        onChange={(e) => {
          setName(e.target.value);
        }}
      />
      {trimmed ? (
        <>
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={wet}
              onChange={(e) => {
                setWet(e.target.checked);
              }}
            />
            wet
          </label>
          <select
            aria-label="When it goes on"
            className="border-b border-line bg-panel"
            value={goesOn}
            onChange={(e) => {
              setGoesOn(e.target.value as typeof goesOn);
            }}
          >
            {WHEN.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
          <Button type="submit">Add it</Button>
        </>
      ) : null}
    </form>
  );
}
