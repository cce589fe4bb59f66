import { Figure } from "../../ui/Figure";
import { UnitFigure } from "../../ui/UnitFigure";
import type { StyleLine } from "../../ui/styles";
import { OUNCE_G, useUnits } from "../../ui/units";
import type { Batch, Kitchen, Piece } from "./types";

/** A ball of the style's usual mass. */
export function ballOf(
  style: StyleLine | undefined,
): Pick<Piece, "name" | "mass_g" | "area_cm2" | "loading_g_cm2"> {
  return { name: "", mass_g: Math.round(style?.mass_g ?? 250), area_cm2: null, loading_g_cm2: null };
}

/** Pieces of one size: how many, balls or a pan's filling, how much of each. */
export function PieceRow({
  piece,
  at: i,
  style,
  kitchen,
  ways,
  onChange,
  onLeaveOut,
}: {
  piece: Piece;
  at: number;
  style: StyleLine | undefined;
  kitchen: Kitchen;
  ways: Batch["offered_ways"];
  onChange: (to: Partial<Piece>) => void;
  onLeaveOut: (() => void) | null;
}) {
  const units = useUnits();
  const us = units.us("mass");
  const perUnit = us ? OUNCE_G : 1;
  const area = units.as("cm²");
  const usualLoading = style ? style.mass_g / ((Math.PI * style.diameter_cm ** 2) / 4) : 0.5;
  return (
    <div className="flex flex-wrap items-baseline gap-2 border-b border-line pb-2">
      <Figure
        label={`How many of piece ${String(i + 1)}`}
        value={piece.count ?? 1}
        digits={0}
        step={1}
        wide="w-10"
        bounds={[1, 60]}
        onChange={(value) => {
          onChange({ count: Math.max(1, Math.min(60, Math.round(value))) });
        }}
      />
      <select
        aria-label={`What piece ${String(i + 1)} is`}
        className="border-b border-line bg-panel"
        value={piece.mass_g != null ? "ball" : piece.name}
        onChange={(e) => {
          const pan = kitchen.pans.find((p) => p.name === e.target.value);
          if (pan)
            onChange({
              name: pan.name,
              mass_g: null,
              area_cm2: pan.area_cm2,
              count: Math.max(pan.quantity, piece.count ?? 1),
              loading_g_cm2: Number(usualLoading.toFixed(2)),
            });
          else
            onChange({
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
            onChange({ mass_g: Math.min(6000, value * perUnit) });
          }}
        />
      ) : (
        <>
          <UnitFigure
            label={`Loading of piece ${String(i + 1)}`}
            value={piece.loading_g_cm2 ?? 0.5}
            digits={2}
            step={us ? 0.1 : 0.01}
            kept="g/cm²"
            bounds={[0.08, 1.5]}
            onChange={(value) => {
              onChange({ loading_g_cm2: Math.max(0.08, Math.min(1.5, value)) });
            }}
          />
          <span className="text-ash">
            on {Math.round(area.shown(piece.area_cm2 ?? 0))} {area.unit},{" "}
            {units.mass((piece.area_cm2 ?? 0) * (piece.loading_g_cm2 ?? 0))}
          </span>
        </>
      )}
      <WaySelect piece={piece} at={i} ways={ways} onChange={onChange} />
      {onLeaveOut ? (
        <button
          type="button"
          aria-label={`Leave out piece ${String(i + 1)}`}
          className="ml-auto text-ash hover:text-brick"
          onClick={() => {
            onLeaveOut();
          }}
        >
          ×
        </button>
      ) : null}
    </div>
  );
}

/** When these pieces are baked: with the rest, or by a way of their own. */
function WaySelect({
  piece,
  at,
  ways,
  onChange,
}: {
  piece: Piece;
  at: number;
  ways: Batch["offered_ways"];
  onChange: (to: Partial<Piece>) => void;
}) {
  const own = piece.way ?? [];
  return (
    <select
      aria-label={`When piece ${String(at + 1)} is baked`}
      className="border-b border-line bg-panel"
      value={own.length ? (wayOf(piece, ways)?.key ?? "own") : ""}
      onChange={(e) => {
        const way = ways.find((w) => w.key === e.target.value);
        const stage = piece.mass_g == null ? "pan" : "balls";
        onChange({ way: way ? way.steps.map((s) => ({ ...s, stage })) : [] });
      }}
    >
      <option value="">with the rest</option>
      {ways.map((w) => (
        <option key={w.key} value={w.key}>
          {w.name}
        </option>
      ))}
      {own.length && !wayOf(piece, ways) ? <option value="own">hours of its own</option> : null}
    </select>
  );
}

/** The usual way these pieces go, if they go one. */
export function wayOf(piece: Piece, ways: Batch["offered_ways"]) {
  const own = piece.way ?? [];
  return ways.find(
    (w) =>
      w.steps.length === own.length &&
      w.steps.every((s, i) => s.hours === own[i]?.hours && s.place === own[i].place),
  );
}
