import { hoursSaid } from "../../ui/time";
import { scaleLinear } from "@visx/scale";
import { valueAt } from "../../ui/interpolate";
import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { StepLane } from "./StepLane";
import { clockAt, type Batch, type DoughReference, type RiseStep } from "./types";

const H = 268;
const LEFT = 44;
const RIGHT = 14;
const PLOT = { top: 12, bottom: 238 };

/** How far the dough has risen against time, with its spread, and the places it spends that time in. */
export function RiseCurve({
  told,
  steps,
  things,
  mixedAt,
  nowH,
  onSteps,
  onDrag,
}: {
  told: Batch;
  steps: readonly RiseStep[];
  things: DoughReference;
  mixedAt: Date | null;
  /** Hours since mixing, where that is known. */
  nowH: number | null;
  onSteps: (steps: RiseStep[]) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const units = useUnits();
  const [ref, width] = useWidth(760);
  const { rise } = told;
  const total = steps.reduce((sum, s) => sum + s.hours, 0);
  const end = Math.max(total, Math.min(rise.t_h.at(-1) ?? total, total * 1.06 + 0.3));
  const x = scaleLinear<number>({ domain: [0, end], range: [LEFT, width - RIGHT] });
  const top = Math.max(2.6, ...rise.ratio_fast.filter((_, i) => (rise.t_h[i] ?? 0) <= end)) + 0.15;
  const y = scaleLinear<number>({ domain: [1, Math.min(4, top)], range: [PLOT.bottom, PLOT.top] });
  const at = (hours: number) =>
    mixedAt
      ? clockAt(new Date(mixedAt.getTime() + hours * 3_600_000), total > 20)
      : `${hoursSaid(hours)} after mixing`;
  const bounds = rise.windows.map((w, i) => ({
    ...w,
    until: i === rise.windows.length - 1 ? end : w.to_h,
  }));
  const last = rise.windows.at(-1);
  const mark = things.marks.find((m) => m.stage === last?.stage);
  const ratioTicks = [1, 1.5, 2, 2.5, 3, 3.5].filter((r) => r <= (y.domain()[1] ?? 4));
  const every = end > 60 ? 12 : end > 30 ? 6 : end > 14 ? 3 : end > 5 ? 1 : 0.5;
  const ticks = timeTicks(end, every, mixedAt);
  const series = (values: readonly number[], from: number, to: number) =>
    rise.t_h
      .map((t, i) => [t, values[i] ?? 1] as const)
      // The first sample of a stage is its start; a sample on the border belongs to the next one.
      .filter(([t]) => t >= from - 1e-6 && t < to - (to < end ? 1e-6 : -1e-6));
  const line = (points: readonly (readonly [number, number])[]) =>
    points.map(([t, r], i) => `${i ? "L" : "M"}${x(t).toFixed(1)} ${y(Math.min(4, r)).toFixed(1)}`).join("");
  const readyX = last?.ready_h != null ? x(Math.min(last.ready_h, end)) : null;
  const farX = last?.too_far_h != null ? x(Math.min(last.too_far_h, end)) : width - RIGHT;
  const said = rise.windows
    .map(
      (w) =>
        `${stageName(w.stage)}: ${w.ready_h != null ? `ready from ${at(w.ready_h)}` : "not ready in these hours"}${w.best_h != null ? `, best ${at(w.best_h)}` : ""}${w.too_far_h != null ? `, too far ${at(w.too_far_h)}` : ""}`,
    )
    .join("; ");
  return (
    <div ref={ref} className="relative w-full min-w-0">
      <svg
        width={width}
        height={H}
        viewBox={`0 0 ${String(width)} ${String(H)}`}
        className="block select-none"
        role="img"
        aria-label={`Volume against its start. ${said}. ${rise.say}`}
      >
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
        {readyX !== null && mark ? (
          <g>
            <rect
              x={readyX}
              y={PLOT.top}
              width={Math.max(2, farX - readyX)}
              height={PLOT.bottom - PLOT.top}
              fill="var(--air)"
              opacity={0.14}
            />
            <text
              x={Math.min(readyX + 5, width - RIGHT - 38)}
              y={PLOT.bottom - 8}
              fontSize={12.5}
              fontWeight={650}
              fill="var(--air)"
            >
              ready
            </text>
          </g>
        ) : null}
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
        <line
          x1={x(total)}
          x2={x(total)}
          y1={PLOT.top}
          y2={PLOT.bottom}
          stroke="var(--soot)"
          strokeWidth={1.4}
        />
        <text
          x={x(total) - 5}
          y={Math.max(PLOT.top + 24, y(valueAt(rise.t_h, rise.ratio, total)) + 4)}
          textAnchor="end"
          fontSize={14}
          fontWeight={700}
          fill="var(--soot)"
        >
          ×{(last?.ratio_at_end ?? 1).toFixed(1)}
        </text>
        {nowH !== null && nowH > 0 && nowH < end ? (
          <g>
            <line
              x1={x(nowH)}
              x2={x(nowH)}
              y1={PLOT.top}
              y2={PLOT.bottom}
              stroke="var(--brick)"
              strokeWidth={1.4}
              strokeDasharray="2 3"
            />
            <text x={x(nowH) + 4} y={PLOT.top + 24} fontSize={12.5} fontWeight={650} fill="var(--brick)">
              now
            </text>
          </g>
        ) : null}
        {(told.dough.seen ?? []).map((s) => (
          <circle
            key={s.at_h}
            cx={x(s.at_h)}
            cy={y(Math.min(4, s.ratio))}
            r={6}
            fill="var(--panel)"
            stroke="var(--soot)"
            strokeWidth={2.6}
          />
        ))}
      </svg>
      <StepLane
        placeC={things.place_c}
        steps={steps}
        left={LEFT}
        width={x(total) - LEFT}
        total={total}
        temp={units.temp}
        onSteps={onSteps}
        onDrag={onDrag}
      />
    </div>
  );
}

/** Marks of the time axis: round hours of the clock where mixing has a time, hours after it where not. */
function timeTicks(end: number, every: number, mixedAt: Date | null): { at: number; text: string }[] {
  const out: { at: number; text: string }[] = [];
  if (!mixedAt) {
    for (let t = 0; t <= end + 1e-9; t += every) out.push({ at: t, text: t ? hoursSaid(t) : "mixed" });
    return out;
  }
  const first = new Date(mixedAt);
  first.setMinutes(0, 0, 0);
  for (let i = 1; out.length < 40; i += 1) {
    const mark = new Date(first.getTime() + i * 3_600_000);
    const at = (mark.getTime() - mixedAt.getTime()) / 3_600_000;
    if (at > end) break;
    if (every >= 1 && mark.getHours() % Math.round(every) === 0)
      out.push({ at, text: clockAt(mark, every >= 6) });
    else if (every < 1) out.push({ at, text: clockAt(mark, false) });
  }
  return out;
}

/** What stands in a stage. */
export function stageName(stage: string): string {
  return { bulk: "The dough", balls: "The balls", pan: "In the pan" }[stage] ?? stage;
}
