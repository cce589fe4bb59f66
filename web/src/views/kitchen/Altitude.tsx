import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { NumberInput } from "../../ui/NumberInput";
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
  const shown = text ?? String(Math.round(kitchen.altitude_m));
  const right = isNumber(shown, BOUNDS);
  return (
    <label className="relative">
      It stands{" "}
      <NumberInput
        label="metres above the sea"
        className="w-14 border-b border-ash bg-transparent text-center font-semibold text-soot"
        text={shown}
        said={right ? null : "Give metres from −450 to 5000."}
        onText={setText}
        onBlur={() => {
          const number = numberIn(shown);
          if (right && number !== null && number !== kitchen.altitude_m && text !== null) save.mutate(number);
        }}
      />{" "}
      m above the sea.
      {save.error ? (
        <span role="alert" className="ml-2 text-brick">
          {save.error.message}
        </span>
      ) : null}
    </label>
  );
}
