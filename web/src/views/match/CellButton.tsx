import type { KeyboardEvent } from "react";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Placed, Style } from "./board";
import { MiniSlice } from "../../ui/MiniSlice";
import { crustForm, miniThick } from "../../ui/sliceShape";

const STEPS: Record<string, readonly [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** One style on one rig: its crust, its time, its word. */
export function CellButton({
  place,
  style,
  thing,
  here,
  ramp,
  onChoose,
  onStep,
  onPlan,
}: {
  place: Placed;
  style: Style;
  thing: string;
  here: boolean;
  ramp: string[];
  onChoose: () => void;
  onStep: (down: number, right: number) => void;
  onPlan: () => void;
}) {
  const units = useUnits();
  const { cell } = place;
  const walk = (e: KeyboardEvent) => {
    const by = STEPS[e.key];
    if (!by && e.key !== "Enter") return;
    e.preventDefault();
    if (by) onStep(by[0], by[1]);
    else onPlan();
  };
  return (
    <button
      type="button"
      tabIndex={here ? 0 : -1}
      data-here={here}
      data-cell={`${cell.style} ${thing}`}
      aria-label={`${bakeTime(cell.likely_done_s)} ${cell.word}, ${style.name} on ${place.rig.support}. ${units.say(cell.reason)}`}
      aria-pressed={here}
      className={`block w-full px-1.5 pt-1 pb-1 text-left ${here ? "bg-panel shadow-[inset_0_0_0_2.5px_var(--brick)]" : "hover:bg-panel"}`}
      onClick={onChoose}
      onDoubleClick={onPlan}
      onKeyDown={walk}
    >
      <span className="flex items-end justify-between gap-0.5">
        <MiniSlice
          ramp={ramp}
          baseL={cell.base_l}
          rimL={cell.rim_l}
          cheeseL={cell.cheese_l}
          dryMm={cell.dry_mm}
          thick={miniThick(style)}
          form={crustForm(style)}
          faded={cell.word === "a stretch" || cell.word === "not here"}
        />
        <span className="text-[13px] leading-tight whitespace-nowrap">{bakeTime(cell.likely_done_s)}</span>
      </span>{" "}
      <span className={`block leading-tight ${cell.word === "made for it" ? "font-bold" : "text-ash"}`}>
        {cell.word}
      </span>
    </button>
  );
}
