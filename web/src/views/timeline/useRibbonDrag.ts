import { useState, type KeyboardEvent } from "react";
import { minuteOf, moved } from "../../ui/time";
import { keyed, useHeld } from "../../ui/useDrag";
import type { Scale } from "./ribbonScale";
import type { PlacedStep, Result } from "./types";

const FIVE = 5;

/** Dragging a step inside its slack, by pointer or key. */
export function useStepDrag(step: PlacedStep, scale: Scale, onMove: (step: PlacedStep, at: string) => void) {
  const [off, setOff] = useState(0);
  const low = minuteOf(step.earliest) - minuteOf(step.at);
  const high = minuteOf(step.latest) - minuteOf(step.at);
  const clamp = (by: number) => Math.max(low, Math.min(high, Math.round(by / FIVE) * FIVE));
  const go = (by: number) => {
    if (by) onMove(step, moved(step.at, by, scale.zone));
  };
  const pointer = useHeld<true>({
    begin: () => (step.flexible ? true : null),
    move: (_, dx) => {
      setOff(clamp(dx * scale.perPx));
    },
    end: (_, dx) => {
      setOff(0);
      go(clamp(dx * scale.perPx));
    },
    cancel: () => {
      setOff(0);
    },
  });
  const onKeyDown = (e: KeyboardEvent) => {
    const by = step.flexible ? keyed(e, FIVE, 30) : 0;
    if (by) go(clamp(by));
  };
  return { off, handlers: { ...pointer, onKeyDown } };
}

/** Dragging the serving time, by pointer or key. */
export function useServeDrag(
  result: Result,
  scale: Scale,
  onServe: (at: string) => void,
  onDrag: (dragging: boolean) => void,
) {
  const over = () => {
    onDrag(false);
  };
  const pointer = useHeld<string>({
    begin: () => {
      onDrag(true);
      return result.serve_at;
    },
    move: (at, dx) => {
      onServe(moved(at, Math.round((dx * scale.perPx) / FIVE) * FIVE, scale.zone));
    },
    end: over,
    cancel: over,
  });
  const onKeyDown = (e: KeyboardEvent) => {
    const by = keyed(e, FIVE, 60);
    if (by) onServe(moved(result.serve_at, by, scale.zone));
  };
  return { ...pointer, onKeyDown };
}
