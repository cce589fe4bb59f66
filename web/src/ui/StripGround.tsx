import { crustColour, type Reference } from "./crust";
import { Hatch } from "./Hatch";
import { valueAt } from "./interpolate";
import { PLOT, type StripScale } from "./stripScale";
import type { StripData } from "./stripTypes";
import { axisTime, clockAfter } from "./time";

export interface BandOf {
  name: string;
  values: readonly number[];
}

/** The colours of the bands over time, and the hatching of what is dark. */
export function StripDefs({
  bands,
  data,
  scale,
  reference,
}: {
  bands: readonly BandOf[];
  data: StripData;
  scale: StripScale;
  reference: Reference;
}) {
  const { traces } = data;
  const { end } = scale;
  return (
    <defs>
      {bands.map((band) => (
        <linearGradient key={band.name} id={`band-${band.name}`} x1="0" x2="1" y1="0" y2="0">
          {Array.from({ length: 49 }, (_, i) => (
            <stop
              key={i}
              offset={`${String((i / 48) * 100)}%`}
              stopColor={crustColour(reference.ramp, valueAt(traces.t_s, band.values, (end * i) / 48))}
            />
          ))}
        </linearGradient>
      ))}
      <Hatch id="dark-band" every={6} line="#fff" thick={1.1} strong={0.28} />
      <Hatch id="charred-band" every={4} line="#fff" thick={1.4} strong={0.45} />
    </defs>
  );
}

/** The clock before the launch and the minutes after it. */
export function StripTicks({
  data,
  scale,
  bandsEnd,
}: {
  data: StripData;
  scale: StripScale;
  bandsEnd: number;
}) {
  const { end, pre, x } = scale;
  const tick = end > 1200 ? 240 : end > 620 ? 120 : 60;
  const ticks = Array.from({ length: Math.floor(end / tick) + 1 }, (_, i) => i * tick);
  const preTicks = Array.from({ length: Math.floor(scale.preLong / 20) }, (_, i) => (i + 1) * 20);
  return (
    <>
      {preTicks.map((m) => (
        <g key={m}>
          <line
            x1={pre(-m * 60)}
            x2={pre(-m * 60)}
            y1={PLOT.top}
            y2={PLOT.bottom}
            stroke="var(--line)"
            strokeWidth="0.7"
          />
          <text x={pre(-m * 60)} y="15" fontSize="12" fill="var(--ash)" textAnchor="middle">
            {clockAfter(data.launchClock, -m * 60)}
          </text>
        </g>
      ))}
      {ticks.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={PLOT.top} y2={bandsEnd} stroke="var(--line)" strokeWidth="0.7" />
          <text
            x={x(t)}
            y="15"
            fontSize="12"
            fill={t === 0 ? "var(--soot)" : "var(--ash)"}
            fontWeight={t === 0 ? 700 : 400}
            textAnchor={t === 0 ? "start" : "middle"}
          >
            {t === 0 ? data.launchClock : axisTime(t)}
          </text>
        </g>
      ))}
    </>
  );
}
