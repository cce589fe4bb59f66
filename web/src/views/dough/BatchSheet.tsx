import type { Schemas } from "../../api/client";
import { hoursSaid } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { pieceSaid } from "./PiecesPanel";
import { slurrySaid } from "./FormulaNotes";
import { stageName } from "./riseScale";
import { awaited, clockAt, type Batch, type DoughDraft } from "./types";

/** The dough on one sheet of paper: what to weigh, in which order, how warm, how long. */
export function BatchSheet({
  draft,
  told,
  title,
  beside,
}: {
  draft: DoughDraft;
  told: Batch;
  title: string;
  beside: readonly Schemas["BesideItem"][];
}) {
  const units = useUnits();
  const { formula, rise } = told;
  const mixes = formula.batches;
  const mixedAt = draft.mixedAt ? new Date(draft.mixedAt) : null;
  const when = (hours: number) =>
    mixedAt
      ? clockAt(new Date(mixedAt.getTime() + hours * 3_600_000), true)
      : `${hoursSaid(hours)} after mixing`;
  const g = (value: number) =>
    units.us("mass")
      ? units.mass(value)
      : `${value < 10 ? value.toFixed(2) : value < 100 ? value.toFixed(1) : value.toFixed(0)} g`;
  return (
    <section className="on-paper hidden print:block" aria-label="Batch sheet">
      <h1 className="text-2xl font-bold">{title}</h1>
      <p>
        {draft.dough.formula.pieces.map((p) => pieceSaid(p, units.mass)).join(" and ")}; {g(formula.dough_g)}{" "}
        in all, {formula.hydration_pct.toFixed(1)} % water
      </p>
      {mixes > 1 ? <p className="font-bold">In {mixes} equal mixes: the table is for one of them.</p> : null}
      <table className="mt-3 w-full text-left">
        <thead>
          <tr>
            <th>
              <span className="sr-only">weighed</span>
            </th>
            <th>ingredient</th>
            <th className="text-right">%</th>
            {formula.preferments.map((p, i) => (
              <th key={i} className="text-right">
                {p.kind.replace("_", " ")}
              </th>
            ))}
            <th className="text-right">into the mix</th>
            <th className="pl-4">about</th>
          </tr>
        </thead>
        <tbody>
          {formula.rows.map((row) => (
            <tr key={row.ingredient} className="border-t border-line">
              <td>□</td>
              <td>
                {row.name}
                {row.ingredient === "water" ? ` at ${units.temp(told.water.water_c)}` : ""}
              </td>
              <td className="text-right">{row.pct < 1 ? row.pct.toFixed(3) : row.pct.toFixed(1)}</td>
              {row.preferment_g.map((value, i) => (
                <td key={i} className="text-right">
                  {value > 0 ? g(value / mixes) : ""}
                </td>
              ))}
              <td className="text-right font-bold">{g(row.mix_g / mixes)}</td>
              <td className="pl-4">{mixes === 1 ? row.household : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {beside.length ? (
        <p className="mt-2">
          Beside the dough:{" "}
          {beside.map((one) => `${one.grams > 0 ? g(one.grams) : one.household} ${one.name}`).join(", ")}.
        </p>
      ) : null}
      <ol className="mt-4 grid gap-1">
        {draft.dough.steps.map((step, i) => {
          const begins = draft.dough.steps.slice(0, i).reduce((sum, s) => sum + s.hours, 0);
          return (
            <li key={i}>
              □ {i === 0 ? "mix, then" : when(begins)}: {stageName(step.stage ?? "bulk").toLowerCase()},{" "}
              {step.place} at {units.temp(step.temp_c)}, {hoursSaid(step.hours)}
            </li>
          );
        })}
        {awaited(rise.windows).map((w) => (
          <li key={w.stage}>
            {stageName(w.stage)}:{" "}
            {w.ready_h != null ? `ready from ${when(w.ready_h)}` : "not ready in these hours"}
            {w.best_h != null ? `, best ${when(w.best_h)}` : ""}
          </li>
        ))}
      </ol>
      {formula.yeast_dilution ? (
        <p className="mt-3">{slurrySaid(formula.yeast_dilution)}; the table has it taken off already.</p>
      ) : null}
      {told.yeast_way ? <p className="mt-3">{units.say(told.yeast_way)}</p> : null}
      <p className="mt-3">
        {units.say(told.water.say)} The dough wants a container of {units.volume(told.container_l)} until it
        is divided.
      </p>
      {told.ways.map((w) => {
        const piece = draft.dough.formula.pieces[w.piece];
        return piece ? (
          <p key={w.piece} className="mt-3">
            {pieceSaid(piece, units.mass)}: divided, then{" "}
            {(piece.way ?? [])
              .map((s) => `${s.place ?? "room"} at ${units.temp(s.temp_c)}, ${hoursSaid(s.hours)}`)
              .join("; ")}
            .
          </p>
        ) : null;
      })}
      {told.cautions.length ? (
        <p className="mt-3 font-bold">{told.cautions.map((c) => units.say(c)).join(" ")}</p>
      ) : null}
      <p className="mt-3">
        Raw flour and dough are not eaten. Wheat and milk are allergens; a gluten-free bake wants its own
        flour, and its own of all that touches it.
      </p>
    </section>
  );
}
