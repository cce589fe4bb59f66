import { LEFT, MOST_RATIO, PLOT, RIGHT, stageName, timeTicks, type RiseScale } from "./riseScale";
import type { Batch } from "./types";

const RATIOS = [1, 1.5, 2, 2.5, 3, 3.5];

/** Ratios and hours behind the curve. */
export function RiseGround({ scale, mixedAt }: { scale: RiseScale; mixedAt: Date | null }) {
  const { x, y, end, width } = scale;
  const ratioTicks = RATIOS.filter((r) => r <= scale.highest);
  const every = end > 60 ? 12 : end > 30 ? 6 : end > 14 ? 3 : end > 5 ? 1 : 0.5;
  const ticks = timeTicks(end, every, mixedAt);
  return (
    <>
      {ratioTicks.map((r) => (
        <g key={r}>
          <line x1={LEFT} x2={width - RIGHT} y1={y(r)} y2={y(r)} stroke="var(--line)" strokeWidth={0.7} />
          <text x={LEFT - 8} y={y(r) + 4} textAnchor="end" fontSize={12.5} fill="var(--ash)">
            ×{r}
          </text>
        </g>
      ))}
      {ticks.map((t) => (
        <g key={t.at}>
          <line
            x1={x(t.at)}
            x2={x(t.at)}
            y1={PLOT.top}
            y2={PLOT.bottom}
            stroke="var(--line)"
            strokeWidth={0.5}
          />
          <text
            x={Math.min(x(t.at), width - 30)}
            y={PLOT.bottom + 18}
            textAnchor={t.at === 0 ? "start" : "middle"}
            fontSize={12.5}
            fill="var(--ash)"
          >
            {t.text}
          </text>
        </g>
      ))}
    </>
  );
}

/** The rise of each stage with its spread; beyond its hours as it would go on. */
export function RiseLines({ rise, scale }: { rise: Batch["rise"]; scale: RiseScale }) {
  const { x, y, end, total } = scale;
  const bounds = rise.windows.map((w, i) => ({
    ...w,
    until: i === rise.windows.length - 1 ? end : w.to_h,
  }));
  const series = (values: readonly number[], from: number, to: number) =>
    rise.t_h
      .map((t, i) => [t, values[i] ?? 1] as const)
      // The first sample of a stage is its start; a sample on the border belongs to the next one.
      .filter(([t]) => t >= from - 1e-6 && t < to - (to < end ? 1e-6 : -1e-6));
  const line = (points: readonly (readonly [number, number])[]) =>
    points
      .map(([t, r], i) => `${i ? "L" : "M"}${x(t).toFixed(1)} ${y(Math.min(MOST_RATIO, r)).toFixed(1)}`)
      .join("");
  return (
    <>
      {bounds.map((w) => {
        const fast = series(rise.ratio_fast, w.from_h, w.until);
        const slow = series(rise.ratio_slow, w.from_h, w.until);
        const mid = series(rise.ratio, w.from_h, w.until);
        return (
          <g key={w.stage}>
            <path
              d={`${line(fast)}${line([...slow].reverse()).replace("M", "L")}Z`}
              fill="var(--brick)"
              opacity={0.16}
            />
            <path
              d={line(mid.filter(([t]) => t <= total + 1e-6))}
              fill="none"
              stroke="var(--brick)"
              strokeWidth={2.4}
            />
            <path
              d={line(mid.filter(([t]) => t >= total - 1e-6))}
              fill="none"
              stroke="var(--brick)"
              strokeWidth={1.6}
              strokeDasharray="4 4"
            />
            {w.from_h > 0 ? (
              <text x={x(w.from_h) + 4} y={PLOT.top + 10} fontSize={12} fill="var(--ash)">
                {stageName(w.stage).toLowerCase()}
              </text>
            ) : null}
          </g>
        );
      })}
    </>
  );
}
