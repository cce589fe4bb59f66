import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { Kitchen } from "./things";

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
  const number = Number(shown);
  const wrong = shown.trim() === "" || !(number >= -450 && number <= 5000);
  return (
    <label>
      It stands{" "}
      <input
        aria-label="metres above the sea"
        inputMode="numeric"
        aria-invalid={wrong || undefined}
        className="w-14 border-b border-ash bg-transparent text-center font-semibold text-soot"
        value={shown}
        onChange={(e) => {
          setText(e.target.value);
        }}
        onBlur={() => {
          if (!wrong && number !== kitchen.altitude_m && text !== null) save.mutate(number);
        }}
      />{" "}
      m above the sea.
      {wrong ? (
        <span role="alert" className="ml-2 text-brick">
          Give metres from −450 to 5000.
        </span>
      ) : null}
      {save.error ? (
        <span role="alert" className="ml-2 text-brick">
          {save.error.message}
        </span>
      ) : null}
    </label>
  );
}
