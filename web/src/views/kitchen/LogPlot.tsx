import type { Schemas } from "../../api/client";
import { useUnits } from "../../ui/units";

type Curve = Schemas["Curve"];

const W = 248;
const H = 120;
const REST = 34;

/** Measured as dots, fitted as lines, and below them what is left over. */
export function LogPlot({ curve }: { curve: Curve }) {
  const units = useUnits();
  const end = Math.max(60, curve.t_s.at(-1) ?? 60);
  const hottest = Math.max(...curve.fitted_deck_c, ...curve.fitted_air_c, 100) + 15;
  const x = (s: number) => 26 + ((W - 30) * s) / end;
  const y = (c: number) => H - 14 - ((H - 20) * c) / hottest;
  const line = (values: readonly number[]) =>
    values.map((v, i) => `${i ? "L" : "M"}${x(curve.t_s[i] ?? 0).toFixed(1)} ${y(v).toFixed(1)}`).join("");
  const series = [
    { name: "deck", seen: curve.deck_c, fitted: curve.fitted_deck_c, colour: "var(--soot)" },
    { name: "oven", seen: curve.air_c, fitted: curve.fitted_air_c, colour: "var(--air)" },
  ].filter((s) => s.seen.some((v) => v !== null));
  const rest = (k: number) => H + REST / 2 - (Math.max(-15, Math.min(15, k)) * (REST - 8)) / 30;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${String(W)} ${String(H + REST)}`}
        className="w-full"
        role="img"
        aria-label={`Measured and fitted over ${String(Math.round(end / 60))} minutes, ${series.map((s) => s.name).join(" and ")}.`}
      >
        {[100, 200].map((c) => (
          <g key={c}>
            <line x1="26" x2={W} y1={y(c)} y2={y(c)} stroke="var(--line)" />
            <text x="22" y={y(c) + 3} textAnchor="end" fontSize="8.5" fill="var(--ash)">
              {units.temp(c).replace(/ .*/, "")}
            </text>
          </g>
        ))}
        {series.map((s) => (
          <g key={s.name}>
            {s.seen.map((v, i) =>
              v === null ? null : (
                <circle key={i} cx={x(curve.t_s[i] ?? 0)} cy={y(v)} r="1.5" fill={s.colour} opacity="0.55" />
              ),
            )}
            <path d={line(s.fitted)} fill="none" stroke={s.colour} strokeWidth="1.6" />
            {s.seen.map((v, i) =>
              v === null ? null : (
                <circle
                  key={`r${String(i)}`}
                  cx={x(curve.t_s[i] ?? 0)}
                  cy={rest(v - (s.fitted[i] ?? v))}
                  r="1.2"
                  fill={s.colour}
                />
              ),
            )}
          </g>
        ))}
        <line x1="26" x2={W} y1={rest(0)} y2={rest(0)} stroke="var(--line)" />
        <text x="22" y={rest(0) + 3} textAnchor="end" fontSize="8.5" fill="var(--ash)">
          off
        </text>
        <text x={W} y={H - 2} textAnchor="end" fontSize="8.5" fill="var(--ash)">
          {Math.round(end / 60)} min
        </text>
      </svg>
      <figcaption className="text-[12px] text-ash">
        dots measured, lines fitted{series.length > 1 ? "; deck dark, oven blue-green" : ""}; below, what is
        left over
      </figcaption>
    </figure>
  );
}
