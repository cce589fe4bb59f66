import { Link } from "react-router";
import { Button } from "../../ui/Button";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { servedMin, type Placed, type Style } from "./board";

/** When as many as asked have eaten, from heat on. */
function servedSaid({ cell }: Placed, people: number): string {
  const pieces = Math.max(1, Math.ceil(people / Math.max(0.3, cell.feeds)));
  const minutes = servedMin(cell, people);
  return `${String(pieces)} for ${String(people)}: first after ${String(Math.round(cell.first_min))} min, all in ${String(Math.round(minutes))} min from heat on`;
}

/** The chosen cell in words, and the way to its plan. */
export function ChosenCell({
  chosen,
  style,
  people,
  onPlan,
  onBake,
  onSupper,
  baking,
}: {
  chosen: Placed;
  style: Style;
  people: number;
  onPlan: () => void;
  onBake: () => void;
  /** Takes it into the supper at hand; null where none was begun. */
  onSupper: (() => void) | null;
  /** Why it could not be begun, or that it is being. */
  baking: string;
}) {
  const units = useUnits();
  return (
    <section aria-label="The chosen cell" className="grid gap-2 bg-panel p-4">
      <h2 className="text-[18px] leading-tight font-bold">
        {style.name}, {chosen.rig.support}
        <span className="block font-sans text-[13px] font-normal text-ash">{chosen.rig.hearth}</span>
      </h2>
      <p className="text-[16px] font-semibold">
        {chosen.cell.word} · {bakeTime(chosen.cell.likely_done_s)}
      </p>
      <p className="text-ash">
        {chosen.cell.method},{" "}
        {chosen.cell.controls.dome_over_k == null
          ? `level ${String(chosen.cell.controls.level)}, dial `
          : "launch at "}
        {units.temp(chosen.cell.controls.setpoint_c)}
      </p>
      <p>
        base {chosen.cell.base_word}, rim {chosen.cell.rim_word},{" "}
        <span className="whitespace-nowrap">{chosen.cell.loss_pct.toFixed(0)} % lost</span>
      </p>
      {chosen.cell.reason ? (
        <p>
          <span className="block text-ash">What holds it back</span>
          {units.say(chosen.cell.reason)}
        </p>
      ) : (
        <p className="text-ash">Nothing holds it back.</p>
      )}
      <Button look="press" className="mt-1 justify-self-start text-[15px]" onClick={onPlan}>
        {onSupper ? "Plan a new supper with this" : "Plan this"}
      </Button>
      {onSupper ? (
        <Button className="justify-self-start" onClick={onSupper}>
          Bake the supper above on this
        </Button>
      ) : null}
      <Button className="justify-self-start" onClick={onBake}>
        Heat on now, bake this
      </Button>
      {baking ? (
        <p role="status" className="text-brick">
          {baking}
        </p>
      ) : null}
      <p className="text-[13px] text-ash">{servedSaid(chosen, people)}</p>
      <Link className="text-[13px] text-air underline underline-offset-2" to={`/match/style/${style.key}`}>
        {style.ownId === null ? "make a style of my own from this" : "change this style, or retire it"}
      </Link>
    </section>
  );
}
