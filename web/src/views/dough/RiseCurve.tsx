import { hoursSaid } from "../../ui/time";
import { valueAt } from "../../ui/interpolate";
import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { RiseGround, RiseLines } from "./RiseParts";
import { H, LEFT, MOST_RATIO, PLOT, RIGHT, riseScale, stageName } from "./riseScale";
import { StepLane } from "./StepLane";
import { clockAt, type Batch, type DoughReference, type RiseStep } from "./types";

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
  const scale = riseScale(rise, steps, width);
  const { x, y, total, end } = scale;
  const at = (hours: number) =>
    mixedAt
      ? clockAt(new Date(mixedAt.getTime() + hours * 3_600_000), total > 20)
      : `${hoursSaid(hours)} after mixing`;
  const last = rise.windows.at(-1);
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
        <RiseGround scale={scale} mixedAt={mixedAt} />
        {readyX !== null ? (
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
        <RiseLines rise={rise} scale={scale} />
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
            cy={y(Math.min(MOST_RATIO, s.ratio))}
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
