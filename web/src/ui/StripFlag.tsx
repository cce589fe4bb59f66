import type { Flag } from "./stripTypes";
import { bakeTime } from "./time";
import { useDrag } from "./useDrag";

/** Something to do at a moment: dragged along the strip, or moved by the arrow keys. */
export function FlagMark({
  flag,
  at,
  wide: w,
  y,
  left,
  from,
  invert,
  onDrag,
}: {
  flag: Flag;
  at: number;
  wide: number;
  /** The top of its label. */
  y: number;
  left: number;
  from: number;
  invert: (px: number) => number;
  onDrag: (dragging: boolean) => void;
}) {
  const clamp = (t: number) => Math.max(flag.min, Math.min(flag.max, Math.round(t / 5) * 5));
  const drag = useDrag(
    (px) => {
      onDrag(true);
      flag.onMove(clamp(invert(px)));
    },
    () => {
      onDrag(false);
    },
  );
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={flag.name}
      aria-valuemin={flag.min}
      aria-valuemax={Math.round(flag.max)}
      aria-valuenow={Math.round(flag.atS)}
      aria-valuetext={`${flag.name} at ${bakeTime(flag.atS)}`}
      data-testid={`flag-${flag.key}`}
      className="cursor-ew-resize"
      onKeyDown={(e) => {
        const step = e.key === "ArrowRight" ? 5 : e.key === "ArrowLeft" ? -5 : 0;
        if (!step) return;
        e.preventDefault();
        flag.onMove(clamp(flag.atS + step));
      }}
      {...drag}
    >
      <line x1={at} x2={at} y1={from - 6} y2={y + 22} stroke="var(--soot)" strokeWidth="1.4" />
      <rect x={left} y={y} width={w} height="23" fill="var(--soot)" />
      <text
        x={left + w / 2}
        y={y + 16}
        fontSize="12.5"
        fontWeight="600"
        textAnchor="middle"
        fill="var(--panel)"
      >
        {flag.name}
      </text>
    </g>
  );
}
