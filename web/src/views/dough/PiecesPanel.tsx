import { Popover } from "radix-ui";
import { Figure } from "../../ui/Figure";
import type { StyleLine } from "../../ui/styles";
import { OUNCE_G, useUnits } from "../../ui/units";
import type { DoughInput, DoughReference, Kitchen, Piece } from "./types";

type PrefermentKind = NonNullable<DoughInput["formula"]["preferments"]>[number]["kind"];
const MADE_BEFORE: readonly { kind: PrefermentKind; name: string; flour: number; yeast: number }[] = [
  { kind: "poolish", name: "poolish", flour: 30, yeast: 0.1 },
  { kind: "biga", name: "biga", flour: 40, yeast: 0.3 },
  { kind: "starter", name: "sourdough starter", flour: 15, yeast: 0 },
  { kind: "paste", name: "scalded paste", flour: 8, yeast: 0 },
  { kind: "old_dough", name: "old dough", flour: 10, yeast: 0 },
];

/** "8 balls of 252 g", or a pan's filling; opens to be set. */
export function pieceSaid(piece: Piece, mass: (g: number) => string): string {
  const each = piece.mass_g ?? (piece.area_cm2 ?? 0) * (piece.loading_g_cm2 ?? 0);
  const count = piece.count ?? 1;
  if (piece.area_cm2 != null && piece.mass_g == null)
    return `${count > 1 ? `${String(count)} × ` : ""}${piece.name || "a pan"}, ${mass(each)}`;
  return `${String(count)} ${count > 1 ? "balls" : "ball"} of ${mass(each)}`;
}

/** What the dough is made into: balls by mass, pans of the kitchen by how much lies on them. */
export function PiecesPanel({
  dough,
  style,
  kitchen,
  onDough,
}: {
  dough: DoughInput;
  style: StyleLine | undefined;
  kitchen: Kitchen;
  onDough: (dough: DoughInput) => void;
}) {
  const units = useUnits();
  const pieces = dough.formula.pieces;
  const us = units.system === "us";
  const perUnit = us ? OUNCE_G : 1;
  const set = (next: Piece[]) => {
    onDough({ ...dough, formula: { ...dough.formula, pieces: next } });
  };
  const change = (i: number, to: Partial<Piece>) => {
    set(pieces.map((p, j) => (j === i ? { ...p, ...to } : p)));
  };
  const usualLoading = style ? style.mass_g / ((Math.PI * style.diameter_cm ** 2) / 4) : 0.5;
  return (
    <Popover.Root>
      <Popover.Trigger
        data-part="pieces"
        aria-label={`pieces: ${pieces.map((p) => pieceSaid(p, units.mass)).join(" and ")}`}
        className="border-b-[2.5px] border-brick text-left font-bold leading-[1.15] hover:bg-brick-wash"
      >
        {pieces.map((p) => pieceSaid(p, units.mass)).join(" and ")}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Pieces"
          align="start"
          sideOffset={6}
          className="leaf z-20 grid w-[26rem] gap-3 p-4"
        >
          {pieces.map((piece, i) => (
            <div key={i} className="flex flex-wrap items-baseline gap-2 border-b border-line pb-2">
              <Figure
                label={`How many of piece ${String(i + 1)}`}
                value={piece.count ?? 1}
                digits={0}
                step={1}
                wide="w-10"
                bounds={[1, 60]}
                onChange={(value) => {
                  change(i, { count: Math.max(1, Math.min(60, Math.round(value))) });
                }}
              />
              <select
                aria-label={`What piece ${String(i + 1)} is`}
                className="border-b border-line bg-panel"
                value={piece.mass_g != null ? "ball" : piece.name}
                onChange={(e) => {
                  const pan = kitchen.pans.find((p) => p.name === e.target.value);
                  if (pan)
                    change(i, {
                      name: pan.name,
                      mass_g: null,
                      area_cm2: pan.area_cm2,
                      loading_g_cm2: Number(usualLoading.toFixed(2)),
                    });
                  else
                    change(i, {
                      name: "",
                      mass_g: Math.round(style?.mass_g ?? 250),
                      area_cm2: null,
                      loading_g_cm2: null,
                    });
                }}
              >
                <option value="ball">balls</option>
                {piece.mass_g == null && !kitchen.pans.some((p) => p.name === piece.name) ? (
                  <option value={piece.name}>{piece.name || "a pan"}</option>
                ) : null}
                {kitchen.pans.map((p) => (
                  <option key={p.id} value={p.name}>
                    {p.name}
                  </option>
                ))}
              </select>
              {piece.mass_g != null ? (
                <Figure
                  label={`Mass of a ball ${String(i + 1)}`}
                  value={piece.mass_g / perUnit}
                  digits={us ? 2 : 0}
                  step={us ? 0.25 : 5}
                  unit={us ? "oz each" : "g each"}
                  bounds={[us ? 0.1 : 1, us ? 211 : 6000]}
                  onChange={(value) => {
                    change(i, { mass_g: Math.min(6000, value * perUnit) });
                  }}
                />
              ) : (
                <>
                  <Figure
                    label={`Loading of piece ${String(i + 1)}`}
                    value={piece.loading_g_cm2 ?? 0.5}
                    digits={2}
                    step={0.01}
                    unit="g/cm²"
                    bounds={[0.08, 1.5]}
                    onChange={(value) => {
                      change(i, { loading_g_cm2: Math.max(0.08, Math.min(1.5, value)) });
                    }}
                  />
                  <span className="text-ash">
                    on {Math.round(piece.area_cm2 ?? 0)} cm²,{" "}
                    {units.mass((piece.area_cm2 ?? 0) * (piece.loading_g_cm2 ?? 0))}
                  </span>
                </>
              )}
              {pieces.length > 1 ? (
                <button
                  type="button"
                  aria-label={`Leave out piece ${String(i + 1)}`}
                  className="ml-auto text-ash hover:text-brick"
                  onClick={() => {
                    set(pieces.filter((_, j) => j !== i));
                  }}
                >
                  ×
                </button>
              ) : null}
            </div>
          ))}
          <button
            type="button"
            className="justify-self-start text-air underline underline-offset-2"
            disabled={pieces.length >= 8}
            onClick={() => {
              set([
                ...pieces,
                {
                  name: "",
                  count: 1,
                  mass_g: Math.round(style?.mass_g ?? 250),
                  area_cm2: null,
                  loading_g_cm2: null,
                },
              ]);
            }}
          >
            another size from the same dough
          </button>
          <p className="flex items-baseline justify-between">
            the bowl or mixer holds
            <Figure
              label="What the bowl holds"
              value={(dough.formula.bowl_limit_g ?? 2500) / perUnit}
              digits={0}
              step={us ? 5 : 100}
              unit={us ? "oz" : "g"}
              bounds={us ? [8, 700] : [200, 20000]}
              onChange={(value) => {
                onDough({
                  ...dough,
                  formula: {
                    ...dough.formula,
                    bowl_limit_g: Math.max(200, Math.min(20000, value * perUnit)),
                  },
                });
              }}
            />
          </p>
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
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

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
  const name = (kind: string) => MADE_BEFORE.find((m) => m.kind === kind)?.name ?? kind;
  return (
    <Popover.Root>
      <Popover.Trigger
        data-part="made before"
        className="border-b-[2.5px] border-brick font-bold leading-[1.15] hover:bg-brick-wash"
      >
        {parts.length ? parts.map((p) => name(p.kind)).join(" and ") : "nothing made before"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Made before"
          align="start"
          sideOffset={6}
          className="leaf z-20 grid w-[26rem] gap-3 p-4"
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
                  set(
                    parts.map((p, j) =>
                      j === i ? { ...p, flour_pct: Math.max(0.5, Math.min(60, value)) } : p,
                    ),
                  );
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
                  set(
                    parts.map((p, j) =>
                      j === i ? { ...p, hydration_pct: Math.max(40, Math.min(600, value)) } : p,
                    ),
                  );
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
                    set(
                      parts.map((p, j) =>
                        j === i ? { ...p, yeast_pct: Math.max(0, Math.min(3, value)) } : p,
                      ),
                    );
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
              <button
                key={m.kind}
                type="button"
                className="quiet"
                disabled={parts.length >= 4}
                onClick={() => {
                  set([
                    ...parts,
                    { kind: m.kind, flour_pct: m.flour, hydration_pct: null, yeast_pct: m.yeast },
                  ]);
                }}
              >
                add {m.name}
              </button>
            ))}
          </div>
          <p className="text-[13px] text-ash">
            Its flour, water and yeast are taken out of the totals on the left; nothing is added to the dough.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
