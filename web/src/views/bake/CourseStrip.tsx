import { crustColour, crustWord, inkOn, type Reference } from "../../ui/crust";
import { valueAt } from "../../ui/interpolate";
import { bakeTime } from "../../ui/time";
import type { Live } from "../../ui/bakeTypes";

const W = 400;
const BAND = 30;
const LEFT = 46;
const SLICES = 80;

/** Base and rim as they most likely come along, the window, and now. */
export function CourseStrip({
  course,
  pull,
  nowS,
  reference,
}: {
  course: NonNullable<Live["course"]>;
  pull: NonNullable<Live["pull"]>;
  nowS: number;
  reference: Reference;
}) {
  const end = Math.max(course.t_s.at(-1) ?? 600, nowS * 1.05);
  const x = (t: number) => LEFT + ((W - LEFT) * Math.min(t, end)) / end;
  const rows = [
    ["base", course.base_l],
    ["rim", course.rim_l],
  ] as const;
  const at = (values: readonly number[], t: number) => valueAt(course.t_s, values, t);
  return (
    <svg
      viewBox={`0 0 ${String(W)} 96`}
      className="mt-3 w-full"
      role="img"
      aria-label={`Look from ${bakeTime(pull.low)}, likely ${bakeTime(pull.likely)}, by ${bakeTime(pull.high)}.`}
    >
      {rows.map(([name, values], row) => {
        const y = 4 + row * (BAND + 4);
        const word = crustWord(reference.words, at(values, pull.likely));
        return (
          <g key={name}>
            <text x={0} y={y + 20} fontSize="15" fontWeight="600" fill="var(--soot)">
              {name}
            </text>
            {Array.from({ length: SLICES }, (_, i) => {
              const t = (end * i) / SLICES;
              return (
                <rect
                  key={i}
                  x={x(t)}
                  y={y}
                  width={(W - LEFT) / SLICES + 0.6}
                  height={BAND}
                  fill={crustColour(reference.ramp, at(values, t))}
                />
              );
            })}
            <text
              x={Math.min(x(pull.likely) + 5, W - 8 * word.length)}
              y={y + 20}
              fontSize="13.5"
              fontWeight="600"
              fill={inkOn(at(values, pull.likely))}
            >
              {word}
            </text>
          </g>
        );
      })}
      <rect
        x={x(pull.low)}
        y={1}
        width={Math.max(3, x(pull.high) - x(pull.low))}
        height={2 * BAND + 10}
        fill="none"
        stroke="var(--brick)"
        strokeWidth="2.5"
      />
      <line x1={x(nowS)} x2={x(nowS)} y1={0} y2={72} stroke="var(--soot)" strokeWidth="4" />
      <text x={x(nowS)} y={88} fontSize="14" fontWeight="700" textAnchor="middle" fill="var(--soot)">
        now
      </text>
      <text x={W} y={88} fontSize="14" fontWeight="600" textAnchor="end" fill="var(--brick)">
        look {bakeTime(pull.low)} to {bakeTime(pull.high)}
      </text>
    </svg>
  );
}
