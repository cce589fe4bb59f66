import type { Schemas } from "../../api/client";
import { useWidth } from "../../ui/useWidth";
import { TempLines } from "./TempLines";

type Curve = Schemas["Curve"];

const H = 330;
const REST = 84;
const LEFT = 42;

/** Measured as dots, fitted as lines, and below them what is left over. */
export function LogPlot({ curve }: { curve: Curve }) {
  const [ref, W] = useWidth(760);
  const end = Math.max(60, curve.t_s.at(-1) ?? 60);
  const hottest = Math.max(...curve.fitted_deck_c, ...curve.fitted_air_c, 100) + 15;
  const x = (s: number) => LEFT + ((W - LEFT - 6) * s) / end;
  const y = (c: number) => H - 22 - ((H - 34) * c) / hottest;
  const line = (values: readonly number[]) =>
    values.map((v, i) => `${i ? "L" : "M"}${x(curve.t_s[i] ?? 0).toFixed(1)} ${y(v).toFixed(1)}`).join("");
  const series = [
    { name: "deck", seen: curve.deck_c, fitted: curve.fitted_deck_c, colour: "var(--soot)" },
    { name: "oven", seen: curve.air_c, fitted: curve.fitted_air_c, colour: "var(--air)" },
  ].filter((s) => s.seen.some((v) => v !== null));
  const rest = (k: number) => H + REST / 2 - (Math.max(-15, Math.min(15, k)) * (REST - 8)) / 30;
  return (
    <figure ref={ref}>
      <svg
        viewBox={`0 0 ${String(W)} ${String(H + REST)}`}
        className="w-full"
        role="img"
        aria-label={`Measured and fitted over ${String(Math.round(end / 60))} minutes, ${series.map((s) => s.name).join(" and ")}.`}
      >
        <TempLines hottest={hottest} left={LEFT} right={W} y={y} />
        {series.map((s) => (
          <g key={s.name}>
            {s.seen.map((v, i) =>
              v === null ? null : (
                <circle key={i} cx={x(curve.t_s[i] ?? 0)} cy={y(v)} r="2.4" fill={s.colour} opacity="0.55" />
              ),
            )}
            <path d={line(s.fitted)} fill="none" stroke={s.colour} strokeWidth="2.4" />
            {s.seen.map((v, i) =>
              v === null ? null : (
                <circle
                  key={`r${String(i)}`}
                  cx={x(curve.t_s[i] ?? 0)}
                  cy={rest(v - (s.fitted[i] ?? v))}
                  r="2"
                  fill={s.colour}
                />
              ),
            )}
          </g>
        ))}
        <line x1={LEFT} x2={W} y1={rest(0)} y2={rest(0)} stroke="var(--line)" />
        <text x={LEFT - 6} y={rest(0) + 4} textAnchor="end" fontSize="12.5" fill="var(--ash)">
          off
        </text>
        <text x={W} y={H - 4} textAnchor="end" fontSize="12.5" fill="var(--ash)">
          {Math.round(end / 60)} min
        </text>
      </svg>
      <figcaption className="text-[13px] text-ash">
        dots measured, lines fitted{series.length > 1 ? "; deck dark, oven blue-green" : ""}; below, what is
        left over
      </figcaption>
    </figure>
  );
}
