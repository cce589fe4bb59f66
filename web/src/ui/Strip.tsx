import type { ReactNode } from "react";
import { scaleLinear } from "@visx/scale";
import { crustColour, crustWord, type Reference } from "./crust";
import { valueAt } from "./interpolate";
import { axisTime, bakeTime, clockAfter } from "./time";
import { Band, BAND_H } from "./StripBand";
import { FlagMark, type Flag } from "./StripFlag";
import { useDrag } from "./useDrag";
import { useUnits } from "./units";
import { useWidth } from "./useWidth";

export interface Traces {
  t_s: number[];
  deck_c: number[];
  air_c: number[];
  bottom_c: number[];
  core_c: number[];
  bottom_l: number[];
  rim_l: number[];
  cheese_l: number[];
}

export interface StripData {
  traces: Traces;
  preheat: { t_s: number[]; deck_c: number[]; air_c: number[] };
  preheatMin: number;
  lookS: number;
  doneS: number;
  lateS: number;
  /** Clock time of the first launch, hh:mm. */
  launchClock: string;
  hasDeck: boolean;
}

const H = 284;
const LEFT = 152;
const RIGHT = 18;
const PLOT = { top: 24, bottom: 128 };
const BANDS = { top: 136, height: BAND_H, gap: 5 };

/** One time axis from heat on to pull: temperatures above, crust colours below, flags and the pull. */
export function Strip({
  data,
  reference,
  handleS,
  flags,
  onScrub,
  onPreheat,
  onDrag,
  corner,
}: {
  data: StripData;
  reference: Reference;
  handleS: number;
  flags: readonly Flag[];
  onScrub: (t: number) => void;
  onPreheat: (minutes: number) => void;
  onDrag: (dragging: boolean) => void;
  /** What stands in the free corner under the preheat. */
  corner: ReactNode;
}) {
  const units = useUnits();
  const [ref, width] = useWidth(1100);
  const { traces } = data;
  const traceEnd = traces.t_s.at(-1) ?? 600;
  const end = Math.min(traceEnd, Math.max(data.lateS * 1.06, data.doneS * 1.45));
  const preLong = data.preheatMin > 75 ? Math.ceil((data.preheatMin + 15) / 30) * 30 : 80;
  const launchX = LEFT + (width - LEFT - RIGHT) * 0.27;
  const pre = scaleLinear<number>({ domain: [-preLong * 60, 0], range: [LEFT, launchX - 12] });
  const x = scaleLinear<number>({ domain: [0, end], range: [launchX, width - RIGHT] });
  const hottest = Math.max(300, ...traces.deck_c, ...traces.air_c, ...data.preheat.air_c);
  const y = scaleLinear<number>({ domain: [0, hottest * 1.04], range: [PLOT.bottom, PLOT.top] });
  const clampT = (t: number) => Math.max(0, Math.min(end, t));
  const scrub = useDrag((px) => {
    onScrub(clampT(x.invert(px)));
  });
  const heatOnX = pre(-data.preheatMin * 60);
  const heatTagX = Math.min(heatOnX - 4, launchX - 12 - 50 - 106);
  const heat = useDrag(
    (px) => {
      const minutes = Math.round(-pre.invert(Math.min(px, launchX - 14)) / 300) * 5;
      onDrag(true);
      onPreheat(Math.max(5, Math.min(150, minutes)));
    },
    () => {
      onDrag(false);
    },
  );
  const now = (values: readonly number[]) => valueAt(traces.t_s, values, handleS);
  const tracks: readonly {
    key: "deck_c" | "air_c" | "bottom_c" | "core_c";
    name: string;
    ink: string;
    wide: number;
    dash?: string;
  }[] = [
    { key: "deck_c", name: data.hasDeck ? "deck" : "tray", ink: "var(--soot)", wide: 2.4 },
    { key: "air_c", name: "air", ink: "var(--air)", wide: 1.6 },
    { key: "bottom_c", name: "base face", ink: "var(--brick)", wide: 1.8 },
    { key: "core_c", name: "crumb", ink: "var(--ash)", wide: 1.6, dash: "5 3" },
  ];
  const path = (
    times: readonly number[],
    values: readonly number[],
    sx: (t: number) => number,
    until: number,
  ) => {
    const points = times
      .map((t, i) => `${sx(t).toFixed(1)} ${y(values[i] ?? 0).toFixed(1)}`)
      .filter((_, i) => (times[i] ?? 0) <= until + 0.01);
    return points.length ? `M${points.join("L")}` : "";
  };
  const tick = end > 1200 ? 240 : end > 620 ? 120 : 60;
  const ticks = Array.from({ length: Math.floor(end / tick) + 1 }, (_, i) => i * tick);
  const preTicks = Array.from({ length: Math.floor(preLong / 20) }, (_, i) => (i + 1) * 20);
  const bands = [
    { name: "base", values: traces.bottom_l },
    { name: "rim", values: traces.rim_l },
    { name: "cheese", values: traces.cheese_l },
  ];
  const bandY = (i: number) => BANDS.top + i * (BANDS.height + BANDS.gap);
  const bandsEnd = bandY(2) + BANDS.height;
  const handleX = x(handleS);
  const say = `Pull at ${bakeTime(handleS)}: base ${crustWord(reference.words, now(traces.bottom_l))}, rim ${crustWord(reference.words, now(traces.rim_l))}, crumb ${units.temp(now(traces.core_c))}`;
  // Flags in two rows, so that neighbours do not cover each other.
  const placed: { flag: Flag; x: number; w: number; row: number }[] = [];
  const ends = [-1e9, -1e9];
  for (const flag of [...flags].sort((a, b) => a.atS - b.atS)) {
    const w = flag.name.length * 6.9 + 14;
    const at = flag.atS < 0 ? pre(flag.atS) : x(Math.min(flag.atS, end));
    const left = Math.min(at, width - RIGHT - w);
    const row = left > (ends[0] ?? 0) + 4 ? 0 : 1;
    ends[row] = left + w;
    placed.push({ flag, x: at, w, row });
  }
  return (
    <div className="w-full overflow-x-auto">
      <div ref={ref} className="relative w-full min-w-[760px]">
        <svg
          width={width}
          height={H}
          viewBox={`0 0 ${String(width)} ${String(H)}`}
          className="block touch-none select-none"
          role="group"
          aria-label={`From heat on at ${clockAfter(data.launchClock, -data.preheatMin * 60)} to the pull. ${say}.`}
        >
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
            <pattern
              id="dark-band"
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="6" stroke="#fff" strokeWidth="1.1" opacity="0.28" />
            </pattern>
            <pattern
              id="charred-band"
              width="4"
              height="4"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="4" stroke="#fff" strokeWidth="1.4" opacity="0.45" />
            </pattern>
          </defs>
          {/* time */}
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
          {/* window behind everything */}
          <rect
            x={x(data.lookS)}
            width={Math.max(0, x(Math.min(end, data.lateS)) - x(data.lookS))}
            y={PLOT.top}
            height={bandsEnd - PLOT.top + 6}
            fill="var(--brick-wash)"
          />
          {/* temperatures */}
          {tracks.map((track, i) => (
            <g key={track.key}>
              <path
                d={path(traces.t_s, traces[track.key], x, end)}
                fill="none"
                stroke={track.ink}
                strokeWidth={track.wide}
                strokeDasharray={track.dash}
              />
              <text x="16" y={42 + i * 23} fontSize="13.5" fontWeight="700" fill={track.ink}>
                {track.name}
              </text>
              <text
                x={LEFT - 12}
                y={42 + i * 23}
                fontSize="13.5"
                fontWeight="650"
                textAnchor="end"
                fill={track.ink}
              >
                {units.temp(now(traces[track.key]))}
              </text>
            </g>
          ))}
          {data.preheat.t_s.length > 1 ? (
            <g>
              <path
                d={path(data.preheat.t_s, data.preheat.air_c, (t) => pre(t - data.preheatMin * 60), 1e9)}
                fill="none"
                stroke="var(--air)"
                strokeWidth="1.6"
              />
              {data.hasDeck ? (
                <path
                  d={path(data.preheat.t_s, data.preheat.deck_c, (t) => pre(t - data.preheatMin * 60), 1e9)}
                  fill="none"
                  stroke="var(--soot)"
                  strokeWidth="2.4"
                />
              ) : null}
            </g>
          ) : null}
          <g
            role="slider"
            tabIndex={0}
            aria-label="Heat on, minutes before launch"
            aria-valuemin={5}
            aria-valuemax={150}
            aria-valuenow={data.preheatMin}
            aria-valuetext={`${String(data.preheatMin)} minutes before launch`}
            data-testid="heat-on"
            className="cursor-ew-resize"
            onKeyDown={(e) => {
              const step = e.key === "ArrowLeft" ? 5 : e.key === "ArrowRight" ? -5 : 0;
              if (!step) return;
              e.preventDefault();
              onPreheat(Math.max(5, Math.min(150, data.preheatMin + step)));
            }}
            {...heat}
          >
            <rect
              x={heatOnX - 10}
              y={PLOT.top}
              width="20"
              height={PLOT.bottom - PLOT.top + 46}
              fill="transparent"
            />
            <line
              x1={heatOnX}
              x2={heatOnX}
              y1={PLOT.top}
              y2={PLOT.bottom + 16}
              stroke="var(--soot)"
              strokeWidth="1.5"
            />
            <rect x={heatTagX} y={PLOT.bottom + 16} width="104" height="24" fill="var(--soot)" />
            <text
              x={heatTagX + 52}
              y={PLOT.bottom + 32.5}
              fontSize="12.5"
              fontWeight="650"
              textAnchor="middle"
              fill="var(--panel)"
            >
              {`heat on, ${String(data.preheatMin)} min`}
            </text>
          </g>
          {/* crust bands */}
          {bands.map((band, i) => (
            <Band
              key={band.name}
              name={band.name}
              values={band.values}
              times={traces.t_s}
              end={end}
              x={x}
              y={bandY(i)}
              labelX={launchX - 12}
              reference={reference}
            />
          ))}
          <rect
            x={launchX}
            y={PLOT.top}
            width={Math.max(0, width - RIGHT - launchX)}
            height={bandsEnd - PLOT.top}
            fill="transparent"
            className="cursor-crosshair"
            onClick={(e) => {
              const box = e.currentTarget.getBoundingClientRect();
              onScrub(clampT(((e.clientX - box.left) / box.width) * end));
            }}
          />
          <text
            x={x(data.lookS) - 5}
            y={PLOT.top + 11}
            fontSize="12"
            fontWeight="650"
            stroke="var(--panel)"
            strokeWidth="4"
            paintOrder="stroke"
            fill="var(--brick)"
            textAnchor="end"
          >
            look from {bakeTime(data.lookS)}
          </text>
          {data.lateS <= end ? (
            <text
              x={Math.min(x(data.lateS) + 5, width - RIGHT)}
              y={PLOT.top + 11}
              fontSize="12"
              fontWeight="650"
              stroke="var(--panel)"
              strokeWidth="4"
              paintOrder="stroke"
              fill="var(--brick)"
              textAnchor={x(data.lateS) + 105 > width - RIGHT ? "end" : "start"}
              {...(x(data.lateS) + 105 > width - RIGHT ? { dx: -10, dy: 15 } : {})}
            >
              not later {bakeTime(data.lateS)}
            </text>
          ) : null}
          {placed.map(({ flag, x: at, w, row }) => (
            <FlagMark
              key={flag.key}
              flag={flag}
              at={at}
              w={w}
              row={row}
              right={width - RIGHT}
              from={BANDS.top}
              invert={(px) => (px < launchX ? Math.min(0, pre.invert(px)) : x.invert(px))}
              onDrag={onDrag}
            />
          ))}
          {/* the pull */}
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
            <rect x={handleX - 12} y={PLOT.top} width="24" height={H - PLOT.top} fill="transparent" />
            <line
              x1={handleX}
              x2={handleX}
              y1={PLOT.top - 4}
              y2={H - 30}
              stroke="var(--brick)"
              strokeWidth="2.2"
            />
            <rect
              x={Math.min(handleX - 40, width - RIGHT - 80)}
              y={H - 31}
              width="80"
              height="26"
              fill="var(--brick)"
            />
            <text
              x={Math.min(handleX, width - RIGHT - 40)}
              y={H - 13}
              fontSize="14"
              fontWeight="750"
              textAnchor="middle"
              fill="var(--brick-ink)"
            >
              {Math.abs(handleS - data.doneS) < 3 ? "pull" : "at"} {bakeTime(handleS)}
            </text>
          </g>
        </svg>
        <div
          className="absolute bottom-2 left-0 px-4 pb-1 text-[13px]"
          style={{ maxWidth: Math.max(200, launchX - 76) }}
        >
          {corner}
        </div>
      </div>
    </div>
  );
}
