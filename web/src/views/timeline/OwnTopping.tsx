import { useState } from "react";
import { AddByName } from "../../ui/AddByName";
import type { Pick } from "./ToppingRow";

const WHEN = [
  ["over", "over the cheese"],
  ["under", "under the cheese"],
  ["after", "after the bake"],
] as const;

/** A topping of the cook's own: what it is, whether it is wet, when it goes on. Its amount is typed in its row. */
export function OwnTopping({ onAdd }: { onAdd: (pick: Pick) => void }) {
  const [wet, setWet] = useState(true);
  const [goesOn, setGoesOn] = useState<(typeof WHEN)[number][0]>("over");
  return (
    <AddByName
      label="Another topping"
      add="Add it"
      most={40}
      onAdd={(name) => {
        onAdd({ topping: "own", name, wet, goes_on: goesOn, grams: null, half: "whole", treated: true });
      }}
    >
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
    </AddByName>
  );
}
