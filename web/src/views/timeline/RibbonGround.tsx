import { clock, day, minuteOf } from "../../ui/time";
import { LEFT, RIGHT, ticksOf, TOP, type Scale } from "./ribbonScale";
import type { Result } from "./types";
import type { useServeDrag } from "./useRibbonDrag";

/** Nights and absences, hours and lanes: what the steps lie on. */
export function RibbonGround({ result, scale }: { result: Result; scale: Scale }) {
  const { x, width, floor } = scale;
  return (
    <>
      {result.shaded
        .filter((s) => scale.inside(minuteOf(s.from_at), minuteOf(s.to_at)))
        .map((s) => {
          const a = Math.max(LEFT, x(minuteOf(s.from_at)));
          const b = Math.min(width - RIGHT, x(minuteOf(s.to_at)));
          const night = s.kind === "night";
          return (
            <g key={s.kind + s.from_at}>
              <rect
                x={a}
                y={TOP - 6}
                width={Math.max(0, b - a)}
                height={floor - TOP + 6}
                fill={night ? "var(--soot)" : "var(--brick)"}
                opacity={night ? 0.13 : 0.1}
              />
              {b - a > 34 ? (
                <text x={a + 5} y={TOP - 10} fontSize={12} fill="var(--ash)">
                  {s.kind}
                </text>
              ) : null}
            </g>
          );
        })}
      {ticksOf(scale).map((t) => (
        <g key={t.at}>
          <line x1={x(t.at)} x2={x(t.at)} y1={TOP - 6} y2={floor} stroke="var(--line)" strokeWidth={0.8} />
          <text
            x={Math.min(x(t.at), width - 24)}
            y={floor + 16}
            fontSize={12.5}
            textAnchor="middle"
            fontWeight={t.strong ? 700 : 400}
            fill={t.strong ? "var(--soot)" : "var(--ash)"}
          >
            {t.text}
          </text>
        </g>
      ))}
      {scale.lanes.map((lane) => (
        <text key={lane} x={0} y={scale.laneY(lane) + 19} fontSize={13.5} fontWeight={650} fill="var(--soot)">
          {lane}
        </text>
      ))}
    </>
  );
}

export function NowLine({ nowMin, scale }: { nowMin: number; scale: Scale }) {
  if (nowMin <= scale.from || nowMin >= scale.to) return null;
  const at = scale.x(nowMin);
  return (
    <g aria-hidden>
      <line
        x1={at}
        x2={at}
        y1={TOP - 6}
        y2={scale.floor}
        stroke="var(--soot)"
        strokeWidth={1.6}
        strokeDasharray="2 3"
      />
      <text x={at + 4} y={scale.floor - 4} fontSize={12} fill="var(--soot)">
        now
      </text>
    </g>
  );
}

/** When the first pizza is on the table: a line to be dragged. */
export function ServeLine({
  result,
  scale,
  handlers,
}: {
  result: Result;
  scale: Scale;
  handlers: ReturnType<typeof useServeDrag>;
}) {
  const serve = minuteOf(result.serve_at);
  const at = scale.x(serve);
  const flag = Math.min(at - 2, scale.width - 118);
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label="First pizza on the table"
      aria-valuenow={Math.round(serve)}
      aria-valuetext={`${day(result.serve_at)} ${clock(result.serve_at)}`}
      aria-orientation="horizontal"
      data-testid={`serve-${scale.evening ? "evening" : "days"}`}
      className="cursor-ew-resize touch-none"
      {...handlers}
    >
      <rect x={at - 8} y={0} width={16} height={scale.floor} fill="transparent" />
      <line x1={at} x2={at} y1={TOP - 4} y2={scale.floor} stroke="var(--brick)" strokeWidth={2.4} />
      <rect x={flag} y={0} width={116} height={18} fill="var(--brick)" />
      <text x={flag + 6} y={13} fontSize={12.5} fontWeight={650} fill="var(--brick-ink)">
        first pizza {clock(result.serve_at)}
      </text>
    </g>
  );
}
