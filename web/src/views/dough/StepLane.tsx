import { hoursSaid } from "../../ui/time";
import { Popover } from "radix-ui";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { Figure } from "../../ui/Figure";
import { TempFigure } from "../../ui/TempFigure";
import type { DoughReference, RiseStep } from "./types";

const PLACES = [
  { place: "room", name: "room" },
  { place: "fridge", name: "fridge" },
  { place: "warm", name: "warm spot" },
] as const;
const STAGES = [
  { stage: "bulk", name: "as one" },
  { stage: "balls", name: "in balls" },
  { stage: "pan", name: "in the pan" },
] as const;
const LEAST_H = 0.25;
const LONGEST_H = 168;
const ORDER = { bulk: 0, balls: 1, pan: 2 };

function snapped(hours: number, total: number): number {
  const by = total > 30 ? 0.5 : 0.25;
  return Math.max(LEAST_H, Math.min(LONGEST_H, Math.round(hours / by) * by));
}

/** The dough's places under the curve: borders are dragged, a place is opened to be set. */
export function StepLane({
  steps,
  placeC,
  left,
  width,
  total,
  temp,
  onSteps,
  onDrag,
}: {
  steps: readonly RiseStep[];
  /** How warm it usually is in each place. */
  placeC: DoughReference["place_c"];
  left: number;
  width: number;
  total: number;
  temp: (celsius: number) => string;
  onSteps: (steps: RiseStep[]) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const drag = useRef<{ index: number; x: number; steps: readonly RiseStep[]; perPx: number } | null>(null);
  const moved = (from: readonly RiseStep[], index: number, by: number) => {
    const here = from[index];
    const next = from[index + 1];
    if (!here) return;
    const sum = from.reduce((all, s) => all + s.hours, 0);
    if (!next) {
      onSteps(from.map((s, i) => (i === index ? { ...s, hours: snapped(s.hours + by, sum) } : s)));
      return;
    }
    // A border between two places moves; when the dough is eaten stays.
    const both = here.hours + next.hours;
    const hours = Math.max(LEAST_H, Math.min(both - LEAST_H, snapped(here.hours + by, sum)));
    onSteps(
      from.map((s, i) =>
        i === index ? { ...s, hours } : i === index + 1 ? { ...s, hours: both - hours } : s,
      ),
    );
  };
  const change = (index: number, to: Partial<RiseStep>) => {
    const next = steps.map((s, i) => (i === index ? { ...s, ...to } : s));
    // What comes after cannot be less divided than what comes before.
    const stage = to.stage;
    onSteps(
      stage
        ? next.map((s, i) =>
            (i > index && ORDER[s.stage ?? "bulk"] < ORDER[stage]) ||
            (i < index && ORDER[s.stage ?? "bulk"] > ORDER[stage])
              ? { ...s, stage }
              : s,
          )
        : next,
    );
  };
  let began = 0;
  return (
    <div className="relative h-[46px]" role="group" aria-label="Where the dough spends its time">
      {steps.map((step, i) => {
        const from = left + (began / total) * width;
        const wide = (step.hours / total) * width;
        began += step.hours;
        const cold = step.temp_c <= 12;
        const warm = step.temp_c >= 25;
        const name = PLACES.find((p) => p.place === step.place)?.name ?? step.place;
        return (
          <div key={i}>
            <Popover.Root>
              <Popover.Trigger
                className={`absolute top-0 flex h-10 flex-col justify-center overflow-hidden border-r-2 border-panel text-left leading-tight ${cold ? "bg-[color-mix(in_srgb,var(--air)_28%,var(--panel))]" : warm ? "bg-[color-mix(in_srgb,var(--brick)_26%,var(--panel))]" : "bg-well"} ${wide > 40 ? "px-1.5" : "px-0"}`}
                style={{ left: from, width: wide }}
                aria-label={`${name} ${temp(step.temp_c)} ${hoursSaid(step.hours)}, ${STAGES.find((s) => s.stage === step.stage)?.name ?? ""}: set`}
                data-step={i}
              >
                {wide > 74 ? (
                  <>
                    <span className="font-semibold whitespace-nowrap">
                      {name} {temp(step.temp_c)}
                    </span>{" "}
                    <span className="text-[12.5px] whitespace-nowrap">
                      {hoursSaid(step.hours)}
                      {wide > 150 ? `, ${STAGES.find((s) => s.stage === step.stage)?.name ?? ""}` : ""}
                    </span>
                  </>
                ) : wide > 26 ? (
                  <span className="w-full text-center text-[12px]">{hoursSaid(step.hours)}</span>
                ) : null}
              </Popover.Trigger>
              <Popover.Portal>
                <Popover.Content
                  aria-label="This place"
                  sideOffset={6}
                  className="leaf z-20 grid w-72 gap-3 p-4"
                >
                  <div role="group" aria-label="Place" className="flex gap-1.5">
                    {PLACES.map((p) => (
                      <button
                        key={p.place}
                        type="button"
                        aria-pressed={step.place === p.place}
                        className={`quiet flex-1 ${step.place === p.place ? "font-bold !shadow-[inset_0_0_0_2px_var(--brick)]" : ""}`}
                        onClick={() => {
                          change(i, { place: p.place, temp_c: placeC[p.place] ?? step.temp_c });
                        }}
                      >
                        {p.name}
                      </button>
                    ))}
                  </div>
                  <p className="flex items-baseline justify-between">
                    how warm it is there
                    <TempFigure
                      label="Temperature of the place"
                      value={step.temp_c}
                      digits={1}
                      problem={
                        step.place === "fridge" && step.temp_c > 8
                          ? `no fridge: nothing keeps above ${temp(8)}; food wants ${temp(5)} or less`
                          : undefined
                      }
                      bounds={[-25, 45]}
                      onChange={(temp_c) => {
                        change(i, { temp_c });
                      }}
                    />
                  </p>
                  <p className="flex items-baseline justify-between">
                    hours there
                    <Figure
                      label="Hours in the place"
                      value={step.hours}
                      digits={2}
                      step={0.5}
                      unit="h"
                      bounds={[0.1, LONGEST_H]}
                      onChange={(value) => {
                        change(i, { hours: Math.max(0.1, Math.min(LONGEST_H, value)) });
                      }}
                    />
                  </p>
                  <div role="group" aria-label="How it stands" className="flex gap-1.5">
                    {STAGES.map((s) => (
                      <button
                        key={s.stage}
                        type="button"
                        aria-pressed={step.stage === s.stage}
                        className={`quiet flex-1 ${step.stage === s.stage ? "font-bold !shadow-[inset_0_0_0_2px_var(--brick)]" : ""}`}
                        onClick={() => {
                          change(i, { stage: s.stage });
                        }}
                      >
                        {s.name}
                      </button>
                    ))}
                  </div>
                  <div className="flex justify-between text-[13px]">
                    <button
                      type="button"
                      className="text-air underline underline-offset-2"
                      disabled={steps.length >= 8}
                      onClick={() => {
                        onSteps([...steps.slice(0, i + 1), { ...step, hours: 1 }, ...steps.slice(i + 1)]);
                      }}
                    >
                      another place after it
                    </button>
                    {steps.length > 1 ? (
                      <button
                        type="button"
                        className="text-brick underline underline-offset-2"
                        onClick={() => {
                          onSteps(steps.filter((_, j) => j !== i));
                        }}
                      >
                        leave it out
                      </button>
                    ) : null}
                  </div>
                </Popover.Content>
              </Popover.Portal>
            </Popover.Root>
            <span
              role="slider"
              tabIndex={0}
              aria-label={i === steps.length - 1 ? "End of the rise" : `From ${name} to the next place`}
              aria-valuemin={LEAST_H}
              aria-valuemax={LONGEST_H}
              aria-valuenow={Math.round(step.hours * 100) / 100}
              aria-valuetext={hoursSaid(step.hours)}
              data-testid={`border-${String(i)}`}
              className="absolute top-0 z-[1] h-10 w-3 cursor-ew-resize touch-none"
              style={{ left: from + wide - 6 }}
              onPointerDown={(e: PointerEvent<HTMLSpanElement>) => {
                if (e.button !== 0) return;
                e.currentTarget.setPointerCapture(e.pointerId);
                drag.current = { index: i, x: e.clientX, steps, perPx: total / width };
                onDrag(true);
              }}
              onPointerMove={(e) => {
                const d = drag.current;
                if (d?.index === i) moved(d.steps, i, (e.clientX - d.x) * d.perPx);
              }}
              onPointerUp={(e) => {
                if (drag.current) e.currentTarget.releasePointerCapture(e.pointerId);
                drag.current = null;
                onDrag(false);
              }}
              onPointerCancel={() => {
                drag.current = null;
                onDrag(false);
              }}
              onKeyDown={(e: KeyboardEvent) => {
                const by = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
                if (!by) return;
                e.preventDefault();
                moved(steps, i, by * (total > 30 ? 0.5 : 0.25) * (e.shiftKey ? 4 : 1));
              }}
            >
              <span aria-hidden className="mx-auto block h-full w-[3px] bg-soot" />
            </span>
          </div>
        );
      })}
    </div>
  );
}
