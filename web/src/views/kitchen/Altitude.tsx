import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { NumberInput } from "../../ui/NumberInput";
import { useUnits } from "../../ui/units";
import { isNumber, numberIn } from "../../ui/numbers";
import type { Kitchen } from "./things";

const BOUNDS = [-450, 5000] as const;

/** Height above the sea: water boils cooler up there. */
export function Altitude({ kitchen, onDone }: { kitchen: Kitchen; onDone: () => Promise<void> }) {
  const [text, setText] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (altitude_m: number) =>
      answer(
        client.PUT("/api/kitchen", {
          params: { query: { version: kitchen.version } },
          body: { name: kitchen.name, altitude_m },
        }),
      ),
    onSuccess: async () => {
      setText(null);
      await onDone();
    },
  });
  const { unit, shown: asShown, kept } = useUnits().as("m");
  const shown = text ?? String(Math.round(asShown(kitchen.altitude_m)));
  const bounds = [Math.round(asShown(BOUNDS[0])), Math.round(asShown(BOUNDS[1]))] as const;
  const right = isNumber(shown, bounds);
  return (
    <label className="relative">
      It stands{" "}
      <NumberInput
        label={`${unit === "m" ? "metres" : "feet"} above the sea`}
        className="w-14 border-b border-ash bg-transparent text-center font-semibold text-soot"
        text={shown}
        said={
          right
            ? null
            : `Give ${unit === "m" ? "metres" : "feet"} from ${String(bounds[0]).replace("-", "−")} to ${String(bounds[1])}.`
        }
        onText={setText}
        onBlur={() => {
          const number = numberIn(shown);
          if (!right || number === null || text === null) return;
          const metres = Math.max(BOUNDS[0], Math.min(BOUNDS[1], kept(number)));
          if (metres !== kitchen.altitude_m) save.mutate(metres);
        }}
      />{" "}
      {unit} above the sea.
      {save.error ? (
        <span role="alert" className="ml-2 text-brick">
          {save.error.message}
        </span>
      ) : null}
    </label>
  );
}
