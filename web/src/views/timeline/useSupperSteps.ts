import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Refusal } from "../../api/client";
import { readSupper } from "../../api/saved";
import { useOutbox } from "../../app/useOutbox";
import { minuteOf, nowIn } from "../../ui/time";
import { useNow } from "../../ui/useNow";
import type { PlacedStep, SavedSupper, Told, Words } from "./types";

/** So long past its end a step of hands is asked about, min. */
const OVERDUE_MIN = 10;

/** What happens to the steps: done, pinned, freed; and what should have been done by now. */
export function useSupperSteps({
  saved,
  untouched,
  words,
  shown,
  say,
  settle,
}: {
  saved: SavedSupper | null;
  untouched: boolean;
  words: Words;
  shown: Told | null;
  say: (to: Partial<Words>) => void;
  settle: (row: SavedSupper) => void;
}) {
  const nowMin = useNow(20);
  const outbox = useOutbox();
  const [untold, setUntold] = useState<ReadonlySet<string>>(new Set());
  const done = useMutation({
    // Kept on this device first: a server that is away is told when it is back.
    mutationFn: async (step: string) => {
      const id = saved?.id ?? 0;
      const outcome = await outbox.happened("supper.done", id, { step });
      if (outcome?.state === "refused") throw new Refusal(422, "step", outcome.message ?? "");
      return outcome === null ? null : readSupper(id);
    },
    onSuccess: (row, step) => {
      if (row) settle(row);
      else setUntold((was) => new Set([...was, step]));
    },
  });
  const fixed = words.fixed ?? [];
  const fix = (step: string, at: string, isDone: boolean) => {
    say({ fixed: [...fixed.filter((f) => f.step !== step), { step, at: at.slice(0, 16), done: isDone }] });
  };
  const overdue = (shown?.result.steps ?? []).filter(
    (s) =>
      !s.done &&
      (s.lane === "dough" || s.lane === "hands") &&
      !s.key.startsWith("shape") &&
      minuteOf(shown?.result.serve_at ?? "") > nowMin &&
      minuteOf(s.ends) < nowMin - OVERDUE_MIN,
  );
  return {
    nowMin,
    fixed,
    fix,
    overdue,
    untold,
    busy: done.isPending,
    problem: done.error,
    free: (step: string) => {
      say({ fixed: fixed.filter((f) => f.step !== step) });
    },
    markDone: (step: PlacedStep) => {
      if (untouched) done.mutate(step.key);
      else fix(step.key, nowIn(words.time_zone ?? "UTC"), true);
    },
    asPlanned: () => {
      const meant = overdue.map((s) => ({ step: s.key, at: s.at.slice(0, 16), done: true }));
      say({ fixed: [...fixed.filter((f) => !overdue.some((s) => s.key === f.step)), ...meant] });
    },
  };
}
