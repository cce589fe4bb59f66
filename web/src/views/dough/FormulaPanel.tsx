import type { ReactNode } from "react";
import { useUnits } from "../../ui/units";
import { useUndo } from "../../app/Undo";
import { FormulaOptions, TotalRow } from "./FormulaFoot";
import { FormulaNotes } from "./FormulaNotes";
import { FormulaRow } from "./FormulaRow";
import { held, withMore, without } from "./lines";
import type { Batch, Change, DoughInput, DoughReference } from "./types";

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
  const us = useUnits().us("mass");
  const { formula } = told;
  const lines = dough.formula.lines;
  const unused = things.ingredients.filter((i) => !lines.some((l) => l.ingredient === i.key));
  const setLines = (next: typeof lines) => {
    onDough({ ...dough, formula: { ...dough.formula, lines: next } });
  };
  const offerUndo = useUndo();
  const isFlour = (key: string) => things.ingredients.find((i) => i.key === key)?.role === "flour";
  const wrong = (at: string) => (problem?.at === at ? problem.text : undefined);
  const edits = { us, hold, waterC, wrong, onBegin, onChange };
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
              <FormulaRow
                key={row.ingredient}
                row={row}
                locked={line.locked ?? false}
                unused={unused}
                edits={edits}
                onHold={() => {
                  setLines(held(lines, row.ingredient));
                }}
                onLeaveOut={() => {
                  setLines(without(lines, row.ingredient, isFlour));
                  offerUndo({
                    text: `${row.name} is left out.`,
                    undo: () => {
                      setLines(lines);
                    },
                  });
                }}
              />
            );
          })}
          <TotalRow dough={dough} told={told} edits={edits} />
        </tbody>
      </table>
      <FormulaOptions
        dough={dough}
        unused={unused}
        hold={hold}
        onHold={onHold}
        onMore={(thing) => {
          setLines(withMore(lines, thing, isFlour));
        }}
        onDough={onDough}
      />
      <FormulaNotes dough={dough} told={told} />
      {foot}
    </div>
  );
}
