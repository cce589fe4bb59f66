import { useUnits } from "../../ui/units";

/** The lines of a hundred degrees each behind a plot, as far as it reaches, with their figures left of it. */
export function TempLines({
  hottest,
  left,
  right,
  y,
}: {
  hottest: number;
  left: number;
  right: number;
  y: (celsius: number) => number;
}) {
  const units = useUnits();
  return [100, 200, 300]
    .filter((c) => c < hottest)
    .map((c) => (
      <g key={c}>
        <line x1={left} x2={right} y1={y(c)} y2={y(c)} stroke="var(--line)" />
        <text x={left - 6} y={y(c) + 4} textAnchor="end" fontSize="12.5" fill="var(--ash)">
          {units.temp(c).replace(/ .*/, "")}
        </text>
      </g>
    ));
}
