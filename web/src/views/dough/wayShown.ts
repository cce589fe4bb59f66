import type { Batch, DoughInput, RiseStep } from "./types";

/** The places of the dough that is shown: of the rest, or of pieces that go their own way after the bulk. */
export function stepsOf(dough: DoughInput, piece: number | null): RiseStep[] {
  const way = piece === null ? [] : (dough.formula.pieces[piece]?.way ?? []);
  return way.length ? [...dough.steps.filter((s) => s.stage === "bulk"), ...way] : [...dough.steps];
}

/** The dough with these places: a bulk is everybody's, what comes after it is their own who are shown. */
export function withSteps(dough: DoughInput, piece: number | null, steps: readonly RiseStep[]): DoughInput {
  if (piece === null) return { ...dough, steps: [...steps] };
  const bulk = steps.filter((s) => s.stage === "bulk");
  const way = steps.filter((s) => s.stage !== "bulk");
  const rest = dough.steps.filter((s) => s.stage !== "bulk");
  return {
    ...dough,
    steps: bulk.length + rest.length ? [...bulk, ...rest] : dough.steps,
    formula: {
      ...dough.formula,
      pieces: dough.formula.pieces.map((p, i) => (i === piece ? { ...p, way } : p)),
    },
  };
}

/** How the pieces that are shown rise; those of the rest where they go no way of their own. */
export function riseOf(told: Batch, piece: number | null): Batch["rise"] {
  return told.ways.find((w) => w.piece === piece)?.rise ?? told.rise;
}
