import type { KeyboardEvent } from "react";
import { hoursSaid } from "../../ui/time";
import { useHeld } from "../../ui/useDrag";
import { borderMoved, LEAST_H, LONGEST_H } from "./stepPlaces";
import type { RiseStep } from "./types";

/** The end of a place: dragged, or moved by the arrow keys. */
export function StepBorder({
  steps,
  at,
  name,
  x,
  perPx,
  onSteps,
  onDrag,
}: {
  steps: readonly RiseStep[];
  at: number;
  name: string;
  /** Where it is, px; hours a px. */
  x: number;
  perPx: number;
  onSteps: (steps: RiseStep[]) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const hours = steps[at]?.hours ?? 0;
  const total = steps.reduce((sum, s) => sum + s.hours, 0);
  const over = () => {
    onDrag(false);
  };
  // The steps and the scale as they were when it was taken: both change under the hand.
  const handlers = useHeld<{ steps: readonly RiseStep[]; perPx: number }>({
    begin: () => {
      onDrag(true);
      return { steps, perPx };
    },
    move: (held, dx) => {
      onSteps(borderMoved(held.steps, at, dx * held.perPx));
    },
    end: over,
    cancel: over,
  });
  return (
    <span
      role="slider"
      tabIndex={0}
      aria-label={at === steps.length - 1 ? "End of the rise" : `From ${name} to the next place`}
      aria-valuemin={LEAST_H}
      aria-valuemax={LONGEST_H}
      aria-valuenow={Math.round(hours * 100) / 100}
      aria-valuetext={hoursSaid(hours)}
      data-testid={`border-${String(at)}`}
      className="absolute top-0 z-[1] h-10 w-3 cursor-ew-resize touch-none"
      style={{ left: x - 6 }}
      {...handlers}
      onKeyDown={(e: KeyboardEvent) => {
        const by = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
        if (!by) return;
        e.preventDefault();
        onSteps(borderMoved(steps, at, by * (total > 30 ? 0.5 : 0.25) * (e.shiftKey ? 4 : 1)));
      }}
    >
      <span aria-hidden className="mx-auto block h-full w-[3px] bg-soot" />
    </span>
  );
}
