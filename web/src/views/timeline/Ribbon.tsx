import { useState } from "react";
import { clock, day, minuteOf } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { NowLine, RibbonGround, ServeLine } from "./RibbonGround";
import { LABEL_ROWS, RIGHT, scaleOf, spanOf, stepsIn, type Scale, type Zoom } from "./ribbonScale";
import { DayMark, EveningBar, Wait } from "./RibbonSteps";
import { inRows } from "./stepNames";
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
  const scale = scaleOf(held ?? spanOf(result, zoom), width, zoom, zone);
  const handlers = useServeDrag(result, scale, onServe, (dragging) => {
    // While the serving time is dragged the axis must not run away under the pointer.
    setHeld(dragging ? [scale.from, scale.to] : null);
    onDrag(dragging);
  });
  const { height, evening } = scale;
  const named = result.steps
    .filter((s) => !/^(shape|launch|table)_([2-9]|1\d)/.test(s.key))
    .map((s) => `${s.name} ${day(s.at)} ${clock(s.at)}`);
  return (
    <div className="w-full overflow-x-auto">
      <div ref={ref} className={`w-full min-w-[620px] print:min-w-0 ${faded ? "opacity-50" : ""}`}>
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="block touch-pan-y select-none print:h-auto print:w-full"
          role="group"
          aria-label={`${evening ? "The hours around the table" : "The days before"}: ${named.join(", ")}`}
        >
          <RibbonGround result={result} scale={scale} />
          {result.waits
            .filter((w) => scale.inside(minuteOf(w.from_at), minuteOf(w.to_at)))
            .map((w) => (
              <Wait key={w.name + w.from_at} wait={w} result={result} scale={scale} />
            ))}
          <Steps result={result} scale={scale} onMove={onMove} />
          <NowLine nowMin={nowMin} scale={scale} />
          <ServeLine result={result} scale={scale} handlers={handlers} />
          <title>{units.say(result.say)}</title>
        </svg>
      </div>
    </div>
  );
}

/** The steps: of the evening as bars; of the days as marks with names in rows, so that neighbours do not cover each other. */
function Steps({
  result,
  scale,
  onMove,
}: {
  result: Result;
  scale: Scale;
  onMove: (step: PlacedStep, at: string) => void;
}) {
  const steps = stepsIn(result, scale);
  if (scale.evening)
    return steps.map((step) => (
      <EveningBar key={step.key} step={step} result={result} scale={scale} onMove={onMove} />
    ));
  const rows = inRows(
    steps.filter((s) => !s.key.startsWith("shape_")),
    LABEL_ROWS,
    (s) => scale.x(minuteOf(s.at)),
    scale.width - RIGHT,
  );
  return rows.map(({ step, row, left, wide }) => (
    <DayMark key={step.key} step={step} row={row} left={left} wide={wide} scale={scale} onMove={onMove} />
  ));
}
