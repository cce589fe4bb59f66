import { useState } from "react";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { useKept } from "../../ui/useKept";
import type { Fill } from "./FillSelect";

export type Told = Schemas["ReadResult"];
export type Reading = Schemas["Reading"];
interface Pasted {
  text: string;
  fill: Fill;
  told: Told | null;
}

/** A pasted list and how it was read, kept over a reload. */
export function usePasted(owner: string) {
  const [kept, keep] = useKept<Pasted>(`pasted ${owner}`);
  const pasted: Pasted = kept ?? { text: "", fill: "spooned", told: null };
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const ask = async (call: () => Promise<Told>, as: Pasted) => {
    setBusy(true);
    setProblem("");
    try {
      keep({ ...as, told: await call() });
    } catch (error) {
      keep(as.text.length > 100_000 ? { ...as, text: as.text.slice(0, 100_000) } : as);
      setProblem(
        error instanceof Refusal
          ? error.status === 413
            ? "That is far more than a list of ingredients; paste the list alone."
            : error.message
          : "It could not be read.",
      );
    } finally {
      setBusy(false);
    }
  };
  const read = (as: Pasted) =>
    ask(() => answer(client.POST("/api/dough/read", { body: { text: as.text, fill: as.fill } })), as);
  const correct = (readings: readonly Reading[]) =>
    ask(
      () =>
        answer(
          client.POST("/api/dough/readings", {
            body: {
              fill: pasted.fill,
              lines: readings.map((r) => ({
                text: r.text,
                ingredient: r.ingredient,
                amount: r.amount,
                unit: r.unit || "g",
                part: r.part ?? "",
                protein_pct: r.protein_pct ?? null,
              })),
            },
          }),
        ),
      pasted,
    );
  const change = (i: number, to: Partial<Reading>) => {
    const readings = pasted.told?.readings ?? [];
    const next = readings.map((r, j) => (j === i ? { ...r, ...to } : r));
    if (pasted.told) keep({ ...pasted, told: { ...pasted.told, readings: next } });
    void correct(next);
  };
  return { pasted, keep, problem, busy, read, change };
}
