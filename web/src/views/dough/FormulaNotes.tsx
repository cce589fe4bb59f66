import { useUnits } from "../../ui/units";
import type { Batch, DoughInput } from "./types";

/** How yeast too small for the scale is measured, and that its liquid is the recipe's. */
export function slurrySaid(slurry: NonNullable<Batch["formula"]["yeast_dilution"]>): string {
  const { yeast_g, liquid_g, take_g, liquid_in_it_g, liquid } = slurry;
  return `Too little yeast for the scale: stir ${yeast_g.toFixed(yeast_g < 1 ? 1 : 0)} g into ${liquid_g.toFixed(0)} g of ${liquid} and use ${take_g.toFixed(1)} g of it, with ${liquid_in_it_g.toFixed(1)} g of the recipe's ${liquid} in it`;
}

/** What stands under the formula: what is made before, a dilution, several mixes, what to mind. */
export function FormulaNotes({ dough, told }: { dough: DoughInput; told: Batch }) {
  const units = useUnits();
  const { formula } = told;
  const parts = dough.formula.preferments ?? [];
  return (
    <>
      {formula.preferments.length ? (
        <ul className="grid gap-0.5 text-[13px]">
          {formula.preferments.map((part, i) => (
            <li key={i}>
              <span className="font-semibold">{part.kind.replace("_", " ")}</span> of{" "}
              {units.mass(part.mass_g)} before: {units.mass(part.flour_g)} flour, {units.mass(part.water_g)}{" "}
              water
              {part.yeast_g > 0.005 ? `, ${part.yeast_g.toFixed(2)} g yeast` : ""}
              {parts[i]?.kind === "starter" ? ", the starter in it" : ""}; counted in the totals
            </li>
          ))}
        </ul>
      ) : null}
      {formula.yeast_dilution ? (
        <p className="text-[13px] text-ash">{slurrySaid(formula.yeast_dilution)}: pour so much less.</p>
      ) : null}
      {formula.batches > 1 ? (
        <p className="font-semibold text-brick">
          {formula.batches} equal mixes: the bowl holds {units.mass(dough.formula.bowl_limit_g ?? 2500)}.
        </p>
      ) : null}
      {formula.warnings.map((w) => (
        <p key={w.about + w.text} className="border-l-2 border-brick pl-2 text-[13px] leading-snug">
          <span className="font-semibold">{w.about.replace(/^pieces.*/, "dough on the area")}: </span>
          {units.say(w.text)}
        </p>
      ))}
    </>
  );
}
