import { PLOT, type StripScale } from "./stripScale";
import type { StripData } from "./stripTypes";
import { bakeTime } from "./time";
import { useDrag } from "./useDrag";

const LEAST_MIN = 5;
const MOST_MIN = 150;

/** When the heat goes on: a handle to be dragged. */
export function HeatOn({
  data,
  scale,
  tagY,
  onPreheat,
  onDrag,
}: {
  data: StripData;
  scale: StripScale;
  tagY: number;
  onPreheat: (minutes: number) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const { pre, launchX } = scale;
  const heatOnX = pre(-data.preheatMin * 60);
  const heatTagX = Math.min(heatOnX - 4, launchX - 12 - 50 - 106);
  const clamp = (minutes: number) => Math.max(LEAST_MIN, Math.min(MOST_MIN, minutes));
  const heat = useDrag(
    (px) => {
      onDrag(true);
      onPreheat(clamp(Math.round(-pre.invert(Math.min(px, launchX - 14)) / 300) * 5));
    },
    () => {
      onDrag(false);
    },
  );
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="Heat on, minutes before launch"
      aria-valuemin={LEAST_MIN}
      aria-valuemax={MOST_MIN}
      aria-valuenow={data.preheatMin}
      aria-valuetext={`${String(data.preheatMin)} minutes before launch`}
      data-testid="heat-on"
      className="cursor-ew-resize"
      onKeyDown={(e) => {
        const step = e.key === "ArrowLeft" ? 5 : e.key === "ArrowRight" ? -5 : 0;
        if (!step) return;
        e.preventDefault();
        onPreheat(clamp(data.preheatMin + step));
      }}
      {...heat}
    >
      <rect x={heatOnX - 10} y={PLOT.top} width="20" height={tagY + 24 - PLOT.top} fill="transparent" />
      <line x1={heatOnX} x2={heatOnX} y1={PLOT.top} y2={tagY} stroke="var(--soot)" strokeWidth="1.5" />
      <rect x={heatTagX} y={tagY} width="104" height="24" fill="var(--soot)" />
      <text
        x={heatTagX + 52}
        y={tagY + 16.5}
        fontSize="12.5"
        fontWeight="650"
        textAnchor="middle"
        fill="var(--panel)"
      >
        {`heat on, ${String(data.preheatMin)} min`}
      </text>
    </g>
  );
}

/** Between what moments the pull is, behind everything. */
export function WindowGround({
  data,
  scale,
  bandsEnd,
}: {
  data: StripData;
  scale: StripScale;
  bandsEnd: number;
}) {
  const { x, end } = scale;
  return (
    <rect
      x={x(data.lookS)}
      width={Math.max(0, x(Math.min(end, data.lateS)) - x(data.lookS))}
      y={PLOT.top}
      height={bandsEnd - PLOT.top + 6}
      fill="var(--brick-wash)"
    />
  );
}

/** The moment shown: a handle to be dragged. */
export function Pull({
  data,
  scale,
  height,
  handleS,
  say,
  onScrub,
}: {
  data: StripData;
  scale: StripScale;
  /** Of the whole strip: the pull's tag lies under the lanes of flags. */
  height: number;
  handleS: number;
  say: string;
  onScrub: (t: number) => void;
}) {
  const { x, end, right } = scale;
  const clampT = scale.clamp;
  const handleX = x(handleS);
  const scrub = useDrag((px) => {
    onScrub(clampT(x.invert(px)));
  });
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="Pull"
      aria-valuemin={0}
      aria-valuemax={Math.round(end)}
      aria-valuenow={Math.round(handleS)}
      aria-valuetext={say}
      data-testid="pull"
      className="cursor-ew-resize"
      onKeyDown={(e) => {
        const step = e.key === "ArrowRight" ? 5 : e.key === "ArrowLeft" ? -5 : 0;
        if (!step) return;
        e.preventDefault();
        onScrub(clampT(handleS + step));
      }}
      {...scrub}
    >
      <rect x={handleX - 12} y={PLOT.top} width="24" height={height - PLOT.top} fill="transparent" />
      <line
        x1={handleX}
        x2={handleX}
        y1={PLOT.top - 4}
        y2={height - 30}
        stroke="var(--brick)"
        strokeWidth="2.2"
      />
      <rect
        x={Math.min(handleX - 40, right - 80)}
        y={height - 31}
        width="80"
        height="26"
        fill="var(--brick)"
      />
      <text
        x={Math.min(handleX, right - 40)}
        y={height - 13}
        fontSize="14"
        fontWeight="750"
        textAnchor="middle"
        fill="var(--brick-ink)"
      >
        {Math.abs(handleS - data.doneS) < 3 ? "pull" : "at"} {bakeTime(handleS)}
      </text>
    </g>
  );
}
