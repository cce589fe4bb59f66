import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { TempFigure } from "../../ui/TempFigure";
import { useUnits } from "../../ui/units";
import { LONGEST_H, PLACES, STAGES } from "./stepPlaces";
import type { DoughReference, RiseStep } from "./types";

/** One place the dough is in: which, how warm, how long, how it stands there. */
export function StepForm({
  step,
  placeC,
  onChange,
  onAnother,
  onLeaveOut,
}: {
  step: RiseStep;
  placeC: DoughReference["place_c"];
  onChange: (to: Partial<RiseStep>) => void;
  onAnother: (() => void) | null;
  onLeaveOut: (() => void) | null;
}) {
  const { temp } = useUnits();
  return (
    <>
      <div role="group" aria-label="Place" className="grid grid-cols-3 gap-1.5">
        {PLACES.map((p) => (
          <button
            key={p.place}
            type="button"
            aria-pressed={step.place === p.place}
            className={`quiet flex-1 ${step.place === p.place ? "font-bold !shadow-[inset_0_0_0_2px_var(--brick)]" : ""}`}
            onClick={() => {
              onChange({ place: p.place, temp_c: placeC[p.place] ?? step.temp_c });
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
            onChange({ temp_c });
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
            onChange({ hours: Math.max(0.1, Math.min(LONGEST_H, value)) });
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
              onChange({ stage: s.stage });
            }}
          >
            {s.name}
          </button>
        ))}
      </div>
      <div className="flex justify-between text-[13px]">
        <Button
          look="link"
          className="text-air"
          disabled={onAnother === null}
          onClick={() => {
            onAnother?.();
          }}
        >
          another place after it
        </Button>
        {onLeaveOut ? (
          <Button
            look="link"
            className="text-brick"
            onClick={() => {
              onLeaveOut();
            }}
          >
            leave it out
          </Button>
        ) : null}
      </div>
    </>
  );
}
