import { Figure } from "../../ui/Figure";
import { UnitFigure } from "../../ui/UnitFigure";
import { useUnits } from "../../ui/units";
import { Button } from "../../ui/Button";
import type { DoughInput, Kitchen } from "./types";

/** What the dough is made with: its bowl, what is lost in it, and the scale. */
export function BowlAndScale({
  dough,
  tools,
  onDough,
}: {
  dough: DoughInput;
  tools: Kitchen["tools"];
  onDough: (dough: DoughInput) => void;
}) {
  const units = useUnits();
  const us = units.us("mass");
  return (
    <>
      <p className="flex items-baseline justify-between">
        the bowl or mixer holds
        <UnitFigure
          label="What the bowl holds"
          value={dough.formula.bowl_limit_g ?? 2500}
          digits={0}
          step={us ? 5 : 100}
          kept="g"
          bounds={[200, 20000]}
          onChange={(bowl_limit_g) => {
            onDough({ ...dough, formula: { ...dough.formula, bowl_limit_g } });
          }}
        />
      </p>
      {tools
        .filter((t) => t.holds_g != null)
        .map((t) => (
          <Button
            key={t.id}
            look="link"
            className="justify-self-start text-air"
            onClick={() => {
              const mixing = t.kind === "processor" ? "processor" : "mixer";
              onDough({
                ...dough,
                formula: { ...dough.formula, bowl_limit_g: t.holds_g ?? 2500 },
                water: { ...dough.water, mixing, friction_k: null } as DoughInput["water"],
              });
            }}
          >
            in the {t.name}, {units.mass(t.holds_g ?? 0)} at once
          </Button>
        ))}
      <p className="flex items-baseline justify-between">
        lost in the bowl
        <Figure
          label="Lost in the bowl"
          value={dough.formula.bowl_loss_pct ?? 1.5}
          digits={1}
          step={0.5}
          unit="%"
          bounds={[0, 10]}
          onChange={(value) => {
            onDough({
              ...dough,
              formula: { ...dough.formula, bowl_loss_pct: Math.max(0, Math.min(10, value)) },
            });
          }}
        />
      </p>
      <p className="flex items-baseline justify-between">
        the scale shows
        <Figure
          label="What the scale shows"
          value={dough.formula.scale_g ?? 1}
          digits={2}
          step={0.1}
          unit="g"
          bounds={[0.01, 5]}
          onChange={(value) => {
            onDough({
              ...dough,
              formula: { ...dough.formula, scale_g: Math.max(0.01, Math.min(5, value)) },
            });
          }}
        />
      </p>
    </>
  );
}
