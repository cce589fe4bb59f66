import type { ReactNode } from "react";
import { Figure } from "../../ui/Figure";
import { OUNCE_G, useUnits } from "../../ui/units";
import { useUndo } from "../../app/Undo";
import { FillSelect } from "./FillSelect";
import { held, withMore, without } from "./lines";
import type { Batch, Change, DoughInput, DoughReference } from "./types";

/** Kinds of ingredient one of which can stand for another. */
const SWAPPED: readonly string[] = ["flour", "yeast", "salt", "fat", "sugar"];

/** The ingredient's name; where others of its kind would do, they can be chosen in its place. */
function Name({
  row,
  others,
  locked,
  onSwap,
}: {
  row: Batch["formula"]["rows"][number];
  others: DoughReference["ingredients"];
  locked: boolean;
  onSwap: (to: string) => void;
}) {
  if (locked || !others.length) return <>{row.name}</>;
  return (
    <select
      aria-label={`${row.name}, or in its place`}
      className="max-w-full cursor-pointer appearance-none border-b border-dotted border-ash bg-panel font-semibold"
      value={row.ingredient}
      onChange={(e) => {
        onSwap(e.target.value);
      }}
    >
      <option value={row.ingredient}>{row.name}</option>
      {others.map((other) => (
        <option key={other.key} value={other.key}>
          {other.name}
        </option>
      ))}
    </select>
  );
}

/** The formula as a table that can be edited from either side: share or mass. */
export function FormulaPanel({
  dough,
  told,
  things,
  problem,
  hold,
  onHold,
  onDough,
  onChange,
  onBegin,
  waterC,
  foot,
}: {
  dough: DoughInput;
  told: Batch;
  things: DoughReference;
  problem: { at: string; text: string } | null;
  /** What stays when a mass is typed. */
  hold: "dough" | "flour";
  onHold: (hold: "dough" | "flour") => void;
  onDough: (dough: DoughInput) => void;
  onChange: (at: string, change: Change) => void;
  onBegin: () => void;
  waterC: string;
  foot: ReactNode;
}) {
  const units = useUnits();
  const { formula } = told;
  const parts = dough.formula.preferments ?? [];
  const lines = dough.formula.lines;
  const unused = things.ingredients.filter((i) => !lines.some((l) => l.ingredient === i.key));
  const setLines = (next: typeof lines) => {
    onDough({ ...dough, formula: { ...dough.formula, lines: next } });
  };
  const offerUndo = useUndo();
  const isFlour = (key: string) => things.ingredients.find((i) => i.key === key)?.role === "flour";
  const us = units.system === "us";
  const grams = (value: number) => (us ? value / OUNCE_G : value);
  const digits = (value: number) => (us ? (value < 3 ? 3 : 2) : value < 10 ? 2 : value < 100 ? 1 : 0);
  const wrong = (at: string) => (problem?.at === at ? problem.text : undefined);
  return (
    <div className="grid min-h-0 content-start gap-2">
      <table className="w-full border-collapse">
        <thead>
          <tr className="text-[13px] text-ash">
            <th scope="col" className="text-left font-normal">
              <span className="sr-only">ingredient</span>
            </th>
            <th scope="col" className="text-right font-normal">
              %
            </th>
            <th scope="col" className="text-right font-normal">
              {us ? "oz" : "g"}
            </th>
            <th scope="col">
              <span className="sr-only">lock, leave out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {formula.rows.map((row) => {
            // By name, not by place: the last answer may have rows that are left out by now.
            const line = lines.find((l) => l.ingredient === row.ingredient);
            if (!line) return null;
            return (
              <tr key={row.ingredient} className="border-t border-line" data-ingredient={row.ingredient}>
                <th scope="row" className="py-1 pr-1 text-left text-[16px] font-semibold leading-tight">
                  <Name
                    row={row}
                    others={unused.filter((u) => u.role === row.role && SWAPPED.includes(u.role))}
                    locked={line.locked ?? false}
                    onSwap={(to) => {
                      onChange(`${row.ingredient} swap`, {
                        what: "swap",
                        value: 0,
                        ingredient: row.ingredient,
                        to,
                        hold,
                      });
                    }}
                  />
                  {row.ingredient === "water" ? (
                    <span className="font-normal text-air"> at {waterC}</span>
                  ) : null}
                  {row.household ? (
                    <span className="block text-[13px] font-normal text-ash">{row.household}</span>
                  ) : null}
                </th>
                <td className="text-right align-baseline">
                  <Figure
                    label={`${row.name}, % of the flour`}
                    value={row.pct}
                    digits={row.pct < 1 ? 3 : row.pct < 10 ? 2 : 1}
                    step={row.role === "yeast" ? 0.01 : row.pct < 10 ? 0.1 : 1}
                    wide="w-[4.2rem] text-[17px]"
                    disabled={line.locked ?? false}
                    problem={wrong(`${row.ingredient} pct`)}
                    onBegin={onBegin}
                    onChange={(value) => {
                      onChange(`${row.ingredient} pct`, {
                        what: "pct",
                        value,
                        ingredient: row.ingredient,
                        hold,
                      });
                    }}
                  />
                </td>
                <td className="text-right align-baseline">
                  <Figure
                    label={`${row.name}, ${us ? "ounces" : "grams"}`}
                    value={grams(row.total_g)}
                    digits={digits(row.total_g)}
                    step={us ? 0.1 : row.total_g < 10 ? 0.1 : row.total_g < 100 ? 1 : 10}
                    wide="w-[5rem] text-[18px] font-bold"
                    disabled={line.locked ?? false}
                    problem={wrong(`${row.ingredient} mass`)}
                    onBegin={onBegin}
                    onChange={(value) => {
                      onChange(`${row.ingredient} mass`, {
                        what: "mass_g",
                        value: us ? value * OUNCE_G : value,
                        ingredient: row.ingredient,
                        hold,
                      });
                    }}
                  />
                </td>
                <td className="pl-1 text-right whitespace-nowrap">
                  <button
                    type="button"
                    className={`px-1 text-[12.5px] underline-offset-2 hover:underline ${line.locked ? "font-semibold text-brick" : "text-ash"}`}
                    aria-pressed={line.locked ?? false}
                    aria-label={line.locked ? `held: ${row.name}, let it go` : `hold ${row.name}`}
                    onClick={() => {
                      setLines(held(lines, row.ingredient));
                    }}
                  >
                    {line.locked ? "held" : "hold"}
                  </button>
                  <button
                    type="button"
                    className="px-1 text-[14px] text-ash hover:text-brick"
                    aria-label={`Leave out ${row.name}`}
                    onClick={() => {
                      const before = lines;
                      setLines(without(lines, row.ingredient, isFlour));
                      offerUndo({
                        text: `${row.name} is left out.`,
                        undo: () => {
                          setLines(before);
                        },
                      });
                    }}
                  >
                    ×
                  </button>
                </td>
              </tr>
            );
          })}
          <tr className="border-t border-line">
            <th scope="row" className="py-1 text-left font-normal text-ash">
              in all, with {dough.formula.bowl_loss_pct ?? 1.5} % for the bowl
              <span className="block">
                water in all{" "}
                <Figure
                  label="Hydration of the whole dough, %"
                  value={formula.hydration_pct}
                  digits={1}
                  step={1}
                  wide="w-12 font-semibold text-soot"
                  unit="%"
                  problem={wrong("hydration")}
                  onBegin={onBegin}
                  onChange={(value) => {
                    onChange("hydration", { what: "hydration_pct", value, hold });
                  }}
                />
              </span>
            </th>
            <td className="text-right text-ash">{formula.sum_pct.toFixed(1)}</td>
            <td className="pr-1 text-right font-display text-[20px] font-bold">
              {us ? (formula.dough_g / 453.592).toFixed(2) : Math.round(formula.dough_g)}
              {us ? " lb" : ""}
            </td>
            <td />
          </tr>
        </tbody>
      </table>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[13px]">
        <select
          aria-label="Add an ingredient"
          className="max-w-36 border-b border-line bg-panel py-0.5 text-air"
          value=""
          onChange={(e) => {
            const thing = unused.find((u) => u.key === e.target.value);
            if (!thing) return;
            setLines(withMore(lines, thing, isFlour));
          }}
        >
          <option value="">add an ingredient</option>
          {unused.map((u) => (
            <option key={u.key} value={u.key}>
              {u.name}
            </option>
          ))}
        </select>
        <label className="text-ash">
          typing grams keeps{" "}
          <select
            aria-label="What stays when grams are typed"
            className="border-b border-line bg-panel text-soot"
            value={hold}
            onChange={(e) => {
              onHold(e.target.value === "flour" ? "flour" : "dough");
            }}
          >
            <option value="flour">the flour</option>
            <option value="dough">the whole dough</option>
          </select>
        </label>
        <label className="text-ash">
          cups{" "}
          <FillSelect
            label="How a cup of flour is filled"
            value={dough.formula.fill ?? "spooned"}
            onFill={(fill) => {
              onDough({
                ...dough,
                formula: { ...dough.formula, fill },
              });
            }}
          />
        </label>
      </div>
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
        <p className="text-[13px] text-ash">
          Too little yeast for the scale? Stir {formula.yeast_dilution.yeast_g.toFixed(0)} g into{" "}
          {formula.yeast_dilution.water_g.toFixed(0)} g of the water, use{" "}
          {formula.yeast_dilution.take_g.toFixed(1)} g of it.
        </p>
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
      {foot}
    </div>
  );
}
