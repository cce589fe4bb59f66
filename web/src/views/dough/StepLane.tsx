import { hoursSaid } from "../../ui/time";
import { Popover } from "radix-ui";
import { StepBorder } from "./StepBorder";
import { StepForm } from "./StepForm";
import { PLACES, STAGES, stepChanged } from "./stepPlaces";
import type { DoughReference, RiseStep } from "./types";

const MOST_STEPS = 8;

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
  let began = 0;
  return (
    <div className="relative h-[62px]" role="group" aria-label="Where the dough spends its time">
      {steps.map((step, i) => {
        const from = left + (began / total) * width;
        const wide = (step.hours / total) * width;
        began += step.hours;
        const cold = step.temp_c <= 12;
        const warm = step.temp_c >= 25;
        // Too narrow to be read: its name stands under it, and is what is opened.
        const narrow = wide <= 26;
        const name = PLACES.find((p) => p.place === step.place)?.name ?? step.place;
        const ground = cold
          ? "bg-[color-mix(in_srgb,var(--air)_28%,var(--panel))]"
          : warm
            ? "bg-[color-mix(in_srgb,var(--brick)_26%,var(--panel))]"
            : "bg-well";
        return (
          <div key={i}>
            <Popover.Root>
              {narrow ? (
                <span
                  aria-hidden
                  className={`absolute top-0 h-10 border-r-2 border-panel ${ground}`}
                  style={{ left: from, width: wide }}
                />
              ) : null}
              <Popover.Trigger
                className={`absolute flex flex-col justify-center overflow-hidden text-left leading-tight ${narrow ? "z-10" : `top-0 h-10 border-r-2 border-panel ${ground}`} ${wide > 40 ? "px-1.5" : "px-0"}`}
                style={
                  narrow
                    ? {
                        left: Math.max(left - 8, Math.min(from + wide / 2 - 34, left + width - 68)),
                        top: 42,
                        width: 68,
                      }
                    : { left: from, width: wide }
                }
                aria-label={`${narrow ? `${name.split(",")[0] ?? name} ${hoursSaid(step.hours)}, ${temp(step.temp_c)}` : `${name} ${temp(step.temp_c)} ${hoursSaid(step.hours)}`}, ${STAGES.find((s) => s.stage === step.stage)?.name ?? ""}: set`}
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
                ) : narrow ? (
                  <span className="w-full text-center text-[12px] whitespace-nowrap text-air underline decoration-dotted">
                    {name.split(",")[0]} {hoursSaid(step.hours)}
                  </span>
                ) : (
                  <span className="w-full text-center text-[12px]">{hoursSaid(step.hours)}</span>
                )}
              </Popover.Trigger>
              <Popover.Portal>
                <Popover.Content
                  aria-label="This place"
                  sideOffset={6}
                  className="leaf z-20 grid w-72 gap-3 p-4"
                >
                  <StepForm
                    step={step}
                    placeC={placeC}
                    onChange={(to) => {
                      onSteps(stepChanged(steps, i, to));
                    }}
                    onAnother={
                      steps.length >= MOST_STEPS
                        ? null
                        : () => {
                            onSteps([...steps.slice(0, i + 1), { ...step, hours: 1 }, ...steps.slice(i + 1)]);
                          }
                    }
                    onLeaveOut={
                      steps.length > 1
                        ? () => {
                            onSteps(steps.filter((_, j) => j !== i));
                          }
                        : null
                    }
                  />
                </Popover.Content>
              </Popover.Portal>
            </Popover.Root>
            <StepBorder
              steps={steps}
              at={i}
              name={name}
              x={from + wide}
              perPx={total / width}
              onSteps={onSteps}
              onDrag={onDrag}
            />
          </div>
        );
      })}
    </div>
  );
}
