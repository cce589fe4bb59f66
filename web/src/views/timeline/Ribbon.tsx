import { clock, day, minuteOf, moved, offsetMin, spell } from "../../ui/time";
import { scaleLinear } from "@visx/scale";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { inRows, label, short } from "./stepNames";
import { LANES, type PlacedStep, type Result } from "./types";

const LEFT = 58;
const RIGHT = 16;
const TOP = 22;

/** What a ribbon shows: all days in short, or the hours around the table in full. */
export type Zoom = "days" | "evening";

/** Between what minutes the ribbons run. */
export function spanOf(result: Result, zoom: Zoom): [number, number] {
  const serve = minuteOf(result.serve_at);
  const ends = Math.max(...result.steps.map((s) => minuteOf(s.ends)), serve + 20);
  const first = Math.min(...result.steps.map((s) => minuteOf(s.at)));
  if (zoom === "days") return [first - 30, ends + 20];
  const near = result.steps.filter((s) => minuteOf(s.at) > serve - 300).map((s) => minuteOf(s.at));
  return [Math.min(serve - 75, ...near) - 14, ends + 8];
}

/** Lanes of dough, hands, hearth and table against time; steps are dragged inside their slack. */
export function Ribbon({
  result,
  zoom,
  nowMin,
  faded,
  onMove,
  onServe,
  onDrag,
}: {
  result: Result;
  zoom: Zoom;
  nowMin: number;
  faded: boolean;
  onMove: (step: PlacedStep, at: string) => void;
  onServe: (at: string) => void;
  onDrag: (dragging: boolean) => void;
}) {
  const units = useUnits();
  const [ref, width] = useWidth(1100);
  const [held, setHeld] = useState<{ key: string; by: number } | null>(null);
  const drag = useRef<{ key: string; x: number } | null>(null);
  // While the serving time is dragged the axis must not run away under the pointer.
  const frozen = useRef<[number, number] | null>(null);
  const served = useRef<{ x: number; at: string } | null>(null);
  const [from, to] = frozen.current ?? spanOf(result, zoom);
  const x = scaleLinear<number>({ domain: [from, to], range: [LEFT, width - RIGHT] });
  const perPx = (to - from) / (width - RIGHT - LEFT);
  const inside = (a: number, b: number) => b > from && a < to;
  const evening = zoom === "evening";
  const lanes = evening ? LANES : (["dough", "hands"] as const);
  const laneH = evening ? 38 : 34;
  const laneY = (lane: string) => TOP + Math.max(0, (lanes as readonly string[]).indexOf(lane)) * laneH;
  const labelRows = evening ? 0 : 3;
  const floor = TOP + lanes.length * laneH - (evening ? 0 : laneH) + labelRows * 19 + (evening ? 0 : 8);
  const height = floor + 22;
  const serve = minuteOf(result.serve_at);
  const barH = evening ? 26 : 26;
  const ticks = ticksOf(from, to, result.serve_at, evening);

  const dragStep = (step: PlacedStep) => {
    const low = minuteOf(step.earliest) - minuteOf(step.at);
    const high = minuteOf(step.latest) - minuteOf(step.at);
    const clamp = (by: number) => Math.max(low, Math.min(high, Math.round(by / 5) * 5));
    return {
      onPointerDown: (e: PointerEvent<SVGGElement>) => {
        if (e.button !== 0 || !step.flexible) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: step.key, x: e.clientX };
        setHeld({ key: step.key, by: 0 });
      },
      onPointerMove: (e: PointerEvent<SVGGElement>) => {
        if (drag.current?.key !== step.key) return;
        setHeld({ key: step.key, by: clamp((e.clientX - drag.current.x) * perPx) });
      },
      onPointerUp: (e: PointerEvent<SVGGElement>) => {
        if (drag.current?.key !== step.key) return;
        const by = clamp((e.clientX - drag.current.x) * perPx);
        drag.current = null;
        setHeld(null);
        if (by) onMove(step, moved(step.at, by));
      },
      onPointerCancel: () => {
        drag.current = null;
        setHeld(null);
      },
      onKeyDown: (e: KeyboardEvent) => {
        const by = { ArrowLeft: -5, ArrowRight: 5, PageDown: -30, PageUp: 30 }[e.key];
        if (!by || !step.flexible) return;
        e.preventDefault();
        const next = clamp(by * (e.shiftKey ? 6 : 1));
        if (next) onMove(step, moved(step.at, next));
      },
    };
  };
  const serveHandlers = {
    onPointerDown: (e: PointerEvent<SVGGElement>) => {
      if (e.button !== 0) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      frozen.current = [from, to];
      served.current = { x: e.clientX, at: result.serve_at };
      onDrag(true);
    },
    onPointerMove: (e: PointerEvent<SVGGElement>) => {
      if (!served.current) return;
      const by = Math.round(((e.clientX - served.current.x) * perPx) / 5) * 5;
      onServe(moved(served.current.at, by));
    },
    onPointerUp: () => {
      served.current = null;
      frozen.current = null;
      onDrag(false);
    },
    onPointerCancel: () => {
      served.current = null;
      frozen.current = null;
      onDrag(false);
    },
    onKeyDown: (e: KeyboardEvent) => {
      const by = { ArrowLeft: -5, ArrowRight: 5, PageDown: -60, PageUp: 60 }[e.key];
      if (!by) return;
      e.preventDefault();
      onServe(moved(result.serve_at, by * (e.shiftKey ? 6 : 1)));
    },
  };
  const steps = result.steps.filter(
    (s) => inside(minuteOf(s.at), minuteOf(s.ends)) && (evening || s.lane === "dough" || s.lane === "hands"),
  );
  // On the days' ribbon hands are marks with names in rows, so that neighbours do not cover each other.
  const named = evening
    ? []
    : inRows(
        steps.filter((s) => !s.key.startsWith("shape_")),
        labelRows,
        (s) => x(minuteOf(s.at)),
        width - RIGHT,
      );
  const markY = TOP + laneH - 4;
  return (
    <div className="w-full overflow-x-auto">
      <div ref={ref} className={`w-full min-w-[620px] print:min-w-0 ${faded ? "opacity-50" : ""}`}>
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="block touch-pan-y select-none print:h-auto print:w-full"
          role="group"
          aria-label={`${evening ? "The hours around the table" : "The days before"}: ${result.steps
            .filter((s) => !/^(shape|launch|table)_([2-9]|1\d)/.test(s.key))
            .map((s) => `${s.name} ${day(s.at)} ${clock(s.at)}`)
            .join(", ")}`}
        >
          {result.shaded
            .filter((s) => inside(minuteOf(s.from_at), minuteOf(s.to_at)))
            .map((s) => {
              const a = Math.max(LEFT, x(minuteOf(s.from_at)));
              const b = Math.min(width - RIGHT, x(minuteOf(s.to_at)));
              return (
                <g key={s.kind + s.from_at}>
                  <rect
                    x={a}
                    y={TOP - 6}
                    width={Math.max(0, b - a)}
                    height={floor - TOP + 6}
                    fill={s.kind === "night" ? "var(--soot)" : "var(--brick)"}
                    opacity={s.kind === "night" ? 0.13 : 0.1}
                  />
                  {b - a > 34 ? (
                    <text x={a + 5} y={TOP - 10} fontSize={12} fill="var(--ash)">
                      {s.kind}
                    </text>
                  ) : null}
                </g>
              );
            })}
          {ticks.map((t) => (
            <g key={t.at}>
              <line
                x1={x(t.at)}
                x2={x(t.at)}
                y1={TOP - 6}
                y2={floor}
                stroke="var(--line)"
                strokeWidth={0.8}
              />
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
          {lanes.map((lane) => (
            <text key={lane} x={0} y={laneY(lane) + 19} fontSize={13.5} fontWeight={650} fill="var(--soot)">
              {lane}
            </text>
          ))}
          {result.waits
            .filter((w) => inside(minuteOf(w.from_at), minuteOf(w.to_at)))
            .map((w) => {
              const a = Math.max(LEFT, x(minuteOf(w.from_at)));
              const b = Math.min(width - RIGHT, x(minuteOf(w.to_at)));
              // The evening's bars also say what begins them: a task of two minutes has no room of its own.
              const begun = result.steps.find((s) => s.lane === "dough" && s.ends === w.from_at);
              const named = evening && begun ? `${clock(begun.at)} ${short(begun)}; ${w.name}` : w.name;
              const text = `${named}, ${spell(w.minutes)}`;
              return (
                <g key={w.name + w.from_at}>
                  <rect
                    x={a}
                    y={laneY("dough")}
                    width={Math.max(1.5, b - a)}
                    height={barH}
                    fill={
                      w.place === "fridge"
                        ? "color-mix(in srgb, var(--air) 30%, var(--panel))"
                        : w.place === "warm"
                          ? "color-mix(in srgb, var(--brick) 28%, var(--panel))"
                          : "var(--well)"
                    }
                    stroke="var(--panel)"
                  />
                  {b - a > named.length * 6.6 + 12 ? (
                    <text x={a + 7} y={laneY("dough") + 18} fontSize={13} fill="var(--soot)">
                      {b - a > text.length * 6.6 + 14 ? text : named}
                    </text>
                  ) : null}
                </g>
              );
            })}
          {!evening
            ? named.map(({ step, row, left, wide }) => {
                const off = held?.key === step.key ? held.by : 0;
                const at = x(minuteOf(step.at) + off);
                const y = markY + 10 + row * 19;
                return (
                  <g
                    key={step.key}
                    {...slider(step, "days")}
                    {...dragStep(step)}
                    className={step.flexible ? "cursor-ew-resize" : ""}
                  >
                    <Slack step={step} x={x} y={markY} from={from} to={to} />
                    <line x1={at} x2={at} y1={TOP} y2={y + 8} stroke={ink(step)} strokeWidth={2.2} />
                    <rect x={left} y={y - 5} width={wide} height={18} fill="transparent" />
                    <text x={left + 5} y={y + 9} fontSize={13} fill="var(--soot)">
                      <tspan fontWeight={700}>{clock(off ? moved(step.at, off) : step.at)}</tspan>{" "}
                      {short(step)}
                      {step.done ? " ✓" : step.fixed ? " •" : ""}
                    </text>
                  </g>
                );
              })
            : steps.map((step) => {
                const off = held?.key === step.key ? held.by : 0;
                const a = Math.max(LEFT, x(minuteOf(step.at) + off));
                const b = Math.min(width - RIGHT, x(minuteOf(step.ends) + off));
                const y = laneY(step.lane);
                const text = label(step);
                const roomy = b - a > text.length * 6.8 + 8;
                const hot = step.lane === "hearth";
                return (
                  <g
                    key={step.key}
                    {...slider(step, "evening")}
                    {...dragStep(step)}
                    className={step.flexible ? "cursor-ew-resize" : ""}
                  >
                    <Slack step={step} x={x} y={y + barH + 4} from={from} to={to} />
                    {step.key === "heat" ? (
                      <rect
                        x={a}
                        y={y + 3}
                        width={Math.max(2, x(launchOf(result)) - a)}
                        height={barH - 6}
                        fill="var(--brick)"
                        opacity={0.28}
                      />
                    ) : null}
                    <rect
                      x={a}
                      y={y}
                      width={Math.max(3, b - a)}
                      height={barH}
                      fill={
                        step.done
                          ? "var(--line)"
                          : hot
                            ? "var(--brick)"
                            : step.lane === "table"
                              ? "var(--panel)"
                              : "color-mix(in srgb, var(--soot) 22%, var(--panel))"
                      }
                      stroke={step.fixed ? "var(--brick)" : step.lane === "table" ? "var(--ash)" : "none"}
                      strokeWidth={step.fixed ? 2 : 1}
                    />
                    {text ? (
                      roomy ? (
                        <text
                          x={hot || step.lane === "table" ? (a + b) / 2 : a + 5}
                          y={y + 18}
                          fontSize={13}
                          fontWeight={650}
                          textAnchor={hot || step.lane === "table" ? "middle" : "start"}
                          fill={hot && !step.done ? "var(--brick-ink)" : "var(--soot)"}
                        >
                          {text}
                        </text>
                      ) : step.key === "heat" ? (
                        <text x={a + 7} y={y + 18} fontSize={13} fontWeight={650} fill="var(--soot)">
                          {clock(step.at)} heat
                        </text>
                      ) : /^(sauce|prep)/.test(step.key) ? (
                        <text x={b + 4} y={y + 18} fontSize={13} fill="var(--soot)">
                          {text}
                        </text>
                      ) : null
                    ) : null}
                  </g>
                );
              })}
          {nowMin > from && nowMin < to ? (
            <g aria-hidden>
              <line
                x1={x(nowMin)}
                x2={x(nowMin)}
                y1={TOP - 6}
                y2={floor}
                stroke="var(--soot)"
                strokeWidth={1.6}
                strokeDasharray="2 3"
              />
              <text x={x(nowMin) + 4} y={floor - 4} fontSize={12} fill="var(--soot)">
                now
              </text>
            </g>
          ) : null}
          <g
            role="slider"
            tabIndex={0}
            aria-label="First pizza on the table"
            aria-valuenow={Math.round(serve)}
            aria-valuetext={`${day(result.serve_at)} ${clock(result.serve_at)}`}
            aria-orientation="horizontal"
            data-testid={`serve-${zoom}`}
            className="cursor-ew-resize touch-none"
            {...serveHandlers}
          >
            <rect x={x(serve) - 8} y={0} width={16} height={floor} fill="transparent" />
            <line
              x1={x(serve)}
              x2={x(serve)}
              y1={TOP - 4}
              y2={floor}
              stroke="var(--brick)"
              strokeWidth={2.4}
            />
            <rect x={Math.min(x(serve) - 2, width - 118)} y={0} width={116} height={18} fill="var(--brick)" />
            <text
              x={Math.min(x(serve) - 2, width - 118) + 6}
              y={13}
              fontSize={12.5}
              fontWeight={650}
              fill="var(--brick-ink)"
            >
              first pizza {clock(result.serve_at)}
            </text>
          </g>
          <title>{units.say(result.say)}</title>
        </svg>
      </div>
    </div>
  );
}

function slider(step: PlacedStep, zoom: Zoom) {
  const said = `${step.name}, ${day(step.at)} ${clock(step.at)}${step.done ? ", done" : step.fixed ? ", pinned" : ""}`;
  if (!step.flexible) return { role: "img", "aria-label": said, "data-step": `${zoom} ${step.key}` } as const;
  return {
    role: "slider",
    tabIndex: 0,
    "aria-label": said,
    "aria-valuemin": Math.round(minuteOf(step.earliest)),
    "aria-valuemax": Math.round(minuteOf(step.latest)),
    "aria-valuenow": Math.round(minuteOf(step.at)),
    "aria-valuetext": `${clock(step.at)}, any time ${day(step.earliest)} ${clock(step.earliest)} to ${day(step.latest)} ${clock(step.latest)}`,
    "data-step": `${zoom} ${step.key}`,
  } as const;
}

/** Between what a step may move: a thin line behind it. */
function Slack({
  step,
  x,
  y,
  from,
  to,
}: {
  step: PlacedStep;
  x: (t: number) => number;
  y: number;
  from: number;
  to: number;
}) {
  if (!step.flexible) return null;
  const a = Math.max(from, minuteOf(step.earliest));
  const b = Math.min(to, minuteOf(step.latest) + step.minutes);
  return (
    <line
      x1={x(a)}
      x2={x(b)}
      y1={y}
      y2={y}
      stroke="var(--ash)"
      strokeWidth={3}
      strokeLinecap="round"
      opacity={0.55}
    />
  );
}

function ink(step: PlacedStep): string {
  return step.done ? "var(--ash)" : "var(--brick)";
}

function launchOf(result: Result): number {
  return minuteOf(result.steps.find((s) => s.key === "launch_1")?.at ?? result.serve_at);
}

function ticksOf(
  from: number,
  to: number,
  near: string,
  evening: boolean,
): { at: number; text: string; strong: boolean }[] {
  const hours = (to - from) / 60;
  const every = evening
    ? hours > 9
      ? 120
      : 60
    : hours > 60
      ? 720
      : hours > 30
        ? 360
        : hours > 14
          ? 180
          : 60;
  const shift = offsetMin(near);
  const out = [];
  for (let local = Math.ceil((from + shift) / every) * every; local - shift < to; local += every) {
    const text = new Date(local * 60_000).toISOString();
    const midnight = text.slice(11, 16) === "00:00";
    const strong = !evening && (midnight || (every === 720 && text.slice(11, 16) === "12:00"));
    out.push({
      at: local - shift,
      text: evening || !strong ? text.slice(11, 16) : `${day(text)} ${text.slice(11, 16)}`,
      strong,
    });
  }
  return out;
}
