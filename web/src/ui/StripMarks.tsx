import type { CSSProperties } from "react";
import { PLOT, type StripScale } from "./stripScale";
import { MARK_H, markY, type Mark, type Placed } from "./stripLayout";
import type { StripMoment } from "./stripTypes";
import { bakeTime } from "./time";
import { useUnits } from "./units";

/** Under the curves: the window's two ends, and the crust's own moments with their points on the curves. */
export function StripMarks({
  marks,
  scale,
  onScrub,
}: {
  marks: readonly (Mark & Placed)[];
  scale: StripScale;
  onScrub: (t: number) => void;
}) {
  const units = useUnits();
  return (
    <>
      {marks.map((mark) => {
        const { moment } = mark;
        const y = markY(mark.lane);
        const ink = moment ? "var(--soot)" : "var(--brick)";
        const word = (
          <text
            x={mark.left + mark.wide / 2}
            y={y + 13}
            fontSize="12.5"
            fontWeight="600"
            textAnchor="middle"
            stroke="var(--panel)"
            strokeWidth="4"
            paintOrder="stroke"
            fill={ink}
          >
            {mark.name}
          </text>
        );
        if (!moment)
          return (
            <g key={mark.key}>
              <line
                x1={mark.at}
                x2={mark.at}
                y1={PLOT.top}
                y2={y + MARK_H - 2}
                stroke={ink}
                strokeWidth="1"
              />
              {word}
            </g>
          );
        // A rim under a flame may be hotter than every curve.
        const dot = Math.max(PLOT.top + 4, scale.y(moment.temp_c));
        return (
          <g
            key={mark.key}
            role="button"
            tabIndex={0}
            aria-label={`${bakeTime(moment.at_s)} ${momentSaid(moment, units.temp(moment.temp_c))}`}
            data-testid={`moment-${mark.key}`}
            className="cursor-pointer"
            onClick={() => {
              onScrub(scale.clamp(moment.at_s));
            }}
            onKeyDown={(e) => {
              if (e.key !== "Enter" && e.key !== " ") return;
              e.preventDefault();
              onScrub(scale.clamp(moment.at_s));
            }}
          >
            <rect x={mark.left} y={y} width={mark.wide} height={MARK_H} fill="transparent" />
            <line
              x1={mark.at}
              x2={mark.at}
              y1={dot}
              y2={y + MARK_H - 2}
              stroke={ink}
              strokeWidth="1"
              strokeDasharray="2 2"
            />
            <circle cx={mark.at} cy={dot} r="3.6" fill="var(--panel)" stroke={ink} strokeWidth="1.8" />
            {word}
          </g>
        );
      })}
    </>
  );
}

/** "base at 142 °C: skin browns. This skin ..." */
function momentSaid(moment: StripMoment, temp: string): string {
  return `${moment.part} at ${temp}: ${moment.name}. ${moment.why}`;
}

/** The last moment of the crust before the one that is shown, and why it matters. */
export function MomentLine({
  moments,
  atS,
  left,
}: {
  moments: readonly StripMoment[];
  atS: number;
  left: number;
}) {
  const units = useUnits();
  const last = moments.findLast((moment) => moment.at_s <= atS + 0.5);
  return (
    <p
      className="min-h-6 px-4 pb-1.5 text-[13px] leading-snug md:pr-3 md:pl-(--launch)"
      style={{ "--launch": `${String(left)}px` } as CSSProperties}
      aria-live="polite"
      data-testid="moment-said"
    >
      {last ? (
        <>
          <b>
            {bakeTime(last.at_s)} {last.name}
          </b>
          , {last.part} at {units.temp(last.temp_c)}. {last.why}
        </>
      ) : null}
    </p>
  );
}
