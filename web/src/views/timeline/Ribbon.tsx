import { useState } from "react";
import { clock, day, minuteOf } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { NowLine, RibbonGround, ServeLine } from "./RibbonGround";
import { RIGHT, scaleOf, spanOf, stepsIn, type Scale, type Zoom } from "./ribbonScale";
import { DayMark, EveningBar, Wait } from "./RibbonSteps";
import { inRows } from "./stepNames";
import { pizzaOf } from "../../ui/supperSteps";
import type { PlacedStep, Result } from "./types";
import { useServeDrag } from "./useRibbonDrag";

/** Lanes of dough, hands, hearth and table against time; steps are dragged inside their slack. */
export function Ribbon({
  result,
  zone,
  zoom,
  nowMin,
  faded,
  onMove,
  onServe,
  onDrag,
}: {
  result: Result;
  zone: string;
  zoom: Zoom;
  nowMin: number;
  faded: boolean;
  onMove: (step: PlacedStep, at: string) => void;
  onServe: (at: string) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const units = useUnits();
  const [ref, width] = useWidth(1100);
  const [held, setHeld] = useState<[number, number] | null>(null);
  const span = held ?? spanOf(result, zoom);
  const named = namesOf(result, scaleOf(span, width, zoom, zone));
  const scale = scaleOf(span, width, zoom, zone, 1 + Math.max(0, ...named.map((one) => one.row)));
  const handlers = useServeDrag(result, scale, onServe, (dragging) => {
    // While the serving time is dragged the axis must not run away under the pointer.
    setHeld(dragging ? [scale.from, scale.to] : null);
    onDrag(dragging);
  });
  const { height, evening } = scale;
  const told = result.steps
    .filter((s) => pizzaOf(s.key) < 2)
    .map((s) => `${s.name} ${day(s.at)} ${clock(s.at)}`);
  return (
    <div className="w-full overflow-x-auto" data-scrolls>
      <div ref={ref} className={`w-full min-w-[620px] print:min-w-0 ${faded ? "opacity-50" : ""}`}>
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="block touch-pan-y select-none print:h-auto print:w-full"
          role="group"
          aria-label={`${evening ? "The hours around the table" : "The days before"}: ${told.join(", ")}`}
        >
          <RibbonGround result={result} scale={scale} />
          {result.waits
            .filter((w) => scale.inside(minuteOf(w.from_at), minuteOf(w.to_at)))
            .map((w) => (
              <Wait key={w.name + w.from_at} wait={w} result={result} scale={scale} />
            ))}
          <Steps result={result} named={named} scale={scale} onMove={onMove} />
          <NowLine nowMin={nowMin} scale={scale} />
          <ServeLine result={result} scale={scale} handlers={handlers} />
          <title>{units.say(result.say)}</title>
        </svg>
      </div>
    </div>
  );
}

/** The names of the days' marks, in rows, so that neighbours do not cover each other; of the evening none. */
function namesOf(result: Result, scale: Scale): ReturnType<typeof inRows> {
  if (scale.evening) return [];
  const steps = stepsIn(result, scale).filter((s) => !/^(shape|top|hob)_\d/.test(s.key));
  return inRows(steps, (s) => scale.x(minuteOf(s.at)), scale.width - RIGHT, [
    scale.x(minuteOf(result.serve_at)),
  ]);
}

/** The steps: of the evening as bars; of the days as marks with their names. */
function Steps({
  result,
  named,
  scale,
  onMove,
}: {
  result: Result;
  named: ReturnType<typeof inRows>;
  scale: Scale;
  onMove: (step: PlacedStep, at: string) => void;
}) {
  if (scale.evening)
    return stepsIn(result, scale).map((step) => (
      <EveningBar key={step.key} step={step} result={result} scale={scale} onMove={onMove} />
    ));
  return named.map(({ step, row, left, wide }) => (
    <DayMark key={step.key} step={step} row={row} left={left} wide={wide} scale={scale} onMove={onMove} />
  ));
}
