import { Button } from "../../ui/Button";
import { FoldDown } from "../../ui/FoldDown";
import { Figure } from "../../ui/Figure";
import type { DoughInput, DoughReference } from "./types";

type PrefermentKind = NonNullable<DoughInput["formula"]["preferments"]>[number]["kind"];
const MADE_BEFORE: readonly { kind: PrefermentKind; name: string; flour: number; yeast: number }[] = [
  { kind: "poolish", name: "poolish", flour: 30, yeast: 0.1 },
  { kind: "biga", name: "biga", flour: 40, yeast: 0.3 },
  { kind: "starter", name: "sourdough starter", flour: 15, yeast: 0 },
  { kind: "paste", name: "scalded paste", flour: 8, yeast: 0 },
  { kind: "old_dough", name: "old dough", flour: 10, yeast: 0 },
];

/** What is made before, of the dough's own flour and water. */
export function PrefermentsPanel({
  dough,
  things,
  onDough,
}: {
  dough: DoughInput;
  things: DoughReference;
  onDough: (dough: DoughInput) => void;
}) {
  const parts = dough.formula.preferments ?? [];
  const set = (next: typeof parts) => {
    onDough({ ...dough, formula: { ...dough.formula, preferments: next } });
  };
  const change = (i: number, to: Partial<(typeof parts)[number]>) => {
    set(parts.map((p, j) => (j === i ? { ...p, ...to } : p)));
  };
  const name = (kind: string) => MADE_BEFORE.find((m) => m.kind === kind)?.name ?? kind;
  return (
    <FoldDown
      part="made before"
      label="Made before"
      shown={parts.length ? parts.map((p) => name(p.kind)).join(" and ") : "nothing made before"}
      className="grid w-[26rem] gap-3 p-4"
    >
      {parts.map((part, i) => (
        <div
          key={part.kind}
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-line pb-2"
        >
          <span className="font-semibold">{name(part.kind)}</span>
          <Figure
            label={`Flour in the ${name(part.kind)}`}
            value={part.flour_pct}
            digits={1}
            step={1}
            wide="w-12"
            unit="% of the flour,"
            bounds={[0.5, 60]}
            onChange={(value) => {
              change(i, { flour_pct: Math.max(0.5, Math.min(60, value)) });
            }}
          />
          <Figure
            label={`Water on the flour of the ${name(part.kind)}`}
            value={part.hydration_pct ?? things.preferments[part.kind] ?? 100}
            digits={0}
            step={5}
            wide="w-12"
            unit="% water on that"
            bounds={[40, 600]}
            onChange={(value) => {
              change(i, { hydration_pct: Math.max(40, Math.min(600, value)) });
            }}
          />
          {part.kind === "poolish" || part.kind === "biga" ? (
            <Figure
              label={`Yeast in the ${name(part.kind)}`}
              value={part.yeast_pct ?? 0}
              digits={2}
              step={0.05}
              wide="w-12"
              unit="% yeast on that"
              bounds={[0, 3]}
              onChange={(value) => {
                change(i, { yeast_pct: Math.max(0, Math.min(3, value)) });
              }}
            />
          ) : null}
          <button
            type="button"
            aria-label={`Leave out the ${name(part.kind)}`}
            className="ml-auto text-ash hover:text-brick"
            onClick={() => {
              set(parts.filter((_, j) => j !== i));
            }}
          >
            ×
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-1.5">
        {MADE_BEFORE.filter((m) => !parts.some((p) => p.kind === m.kind)).map((m) => (
          <Button
            key={m.kind}

            disabled={parts.length >= 4}
            onClick={() => {
              set([...parts, { kind: m.kind, flour_pct: m.flour, hydration_pct: null, yeast_pct: m.yeast }]);
            }}
          >
            add {m.name}
          </Button>
        ))}
      </div>
      <p className="text-[13px] text-ash">
        Its flour, water and yeast are taken out of the totals on the left; nothing is added to the dough.
      </p>
    </FoldDown>
  );
}
