import { clock, day, minuteOf, moved, spell } from "../../ui/time";
import { BAR, LEFT, launchOf, RIGHT, ROW, TOP, type Scale } from "./ribbonScale";
import { label, short } from "./stepNames";
import type { PlacedStep, Result } from "./types";
import { useStepDrag } from "./useRibbonDrag";

type OnMove = (step: PlacedStep, at: string) => void;

function slider(step: PlacedStep, evening: boolean) {
  const zoom = evening ? "evening" : "days";
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
function Slack({ step, scale, y }: { step: PlacedStep; scale: Scale; y: number }) {
  if (!step.flexible) return null;
  return (
    <line
      x1={scale.x(Math.max(scale.from, minuteOf(step.earliest)))}
      x2={scale.x(Math.min(scale.to, minuteOf(step.latest) + step.minutes))}
      y1={y}
      y2={y}
      stroke="var(--ash)"
      strokeWidth={3}
      strokeLinecap="round"
      opacity={0.55}
    />
  );
}

/** A step of the days before: a mark with its name in one of the rows under it. */
export function DayMark({
  step,
  row,
  left,
  wide,
  scale,
  onMove,
}: {
  step: PlacedStep;
  row: number;
  left: number;
  wide: number;
  scale: Scale;
  onMove: OnMove;
}) {
  const { off, handlers } = useStepDrag(step, scale, onMove);
  const at = scale.x(minuteOf(step.at) + off);
  const markY = scale.laneY("hands") - 4;
  const y = markY + 10 + row * ROW;
  return (
    <g {...slider(step, false)} {...handlers} className={step.flexible ? "cursor-ew-resize" : ""}>
      <Slack step={step} scale={scale} y={markY} />
      <line
        x1={at}
        x2={at}
        y1={TOP}
        y2={y + 8}
        stroke={step.done ? "var(--ash)" : "var(--brick)"}
        strokeWidth={2.2}
      />
      <rect x={left} y={y - 5} width={wide} height={20} fill="transparent" />
      <text x={left + 5} y={y + 9} fontSize={13} fill="var(--soot)">
        <tspan fontWeight={700}>{clock(off ? moved(step.at, off, scale.zone) : step.at)}</tspan> {short(step)}
        {step.done ? " ✓" : step.fixed ? " •" : ""}
      </text>
    </g>
  );
}

function fillOf(step: PlacedStep): string {
  if (step.done) return "var(--line)";
  if (step.lane === "hearth") return "var(--brick)";
  return step.lane === "table" ? "var(--panel)" : "color-mix(in srgb, var(--soot) 22%, var(--panel))";
}

/** A step of the evening: a bar in its lane. */
export function EveningBar({
  step,
  result,
  scale,
  onMove,
}: {
  step: PlacedStep;
  result: Result;
  scale: Scale;
  onMove: OnMove;
}) {
  const { off, handlers } = useStepDrag(step, scale, onMove);
  const a = Math.max(LEFT, scale.x(minuteOf(step.at) + off));
  const b = Math.min(scale.width - RIGHT, scale.x(minuteOf(step.ends) + off));
  const y = scale.laneY(step.lane);
  const table = step.lane === "table";
  const lot = step.key.startsWith("lot_");
  return (
    <g
      {...slider(step, true)}
      {...handlers}
      data-tick={lot || undefined}
      className={step.flexible ? "cursor-ew-resize" : ""}
    >
      <Slack step={step} scale={scale} y={y + BAR + 4} />
      {step.key === "heat" ? (
        <rect
          x={a}
          y={y + 3}
          width={Math.max(2, scale.x(launchOf(result)) - a)}
          height={BAR - 6}
          fill="var(--brick)"
          opacity={0.28}
        />
      ) : null}
      {/* As high as a finger finds; a lot's tick leaves the bar over it free, and is moved in the agenda, too. */}
      {lot ? null : <rect x={a} y={y - 3} width={Math.max(3, b - a)} height={32} fill="transparent" />}
      {/* A later lot leaves the fridge while the first rises: a tick under what that bar says. */}
      <rect
        x={a}
        y={lot ? y + BAR - 6 : y}
        width={Math.max(3, b - a)}
        height={lot ? 6 : BAR}
        fill={fillOf(step)}
        stroke={step.fixed ? "var(--brick)" : table ? "var(--ash)" : "none"}
        strokeWidth={step.fixed ? 2 : 1}
      />
      <BarText step={step} a={a} b={b} y={y + 18} />
    </g>
  );
}

/** What a bar says: inside it where there is room, else the little that must be said. */
function BarText({ step, a, b, y }: { step: PlacedStep; a: number; b: number; y: number }) {
  const text = label(step);
  if (!text) return null;
  const hot = step.lane === "hearth";
  const middle = hot || step.lane === "table";
  if (b - a > text.length * 6.8 + 8)
    return (
      <text
        x={middle ? (a + b) / 2 : a + 5}
        y={y}
        fontSize={13}
        fontWeight={650}
        textAnchor={middle ? "middle" : "start"}
        fill={hot && !step.done ? "var(--brick-ink)" : "var(--soot)"}
      >
        {text}
      </text>
    );
  if (step.key === "heat")
    return (
      <text x={a + 7} y={y} fontSize={13} fontWeight={650} fill="var(--soot)">
        {clock(step.at)} heat
      </text>
    );
  return /^(sauce|prep)/.test(step.key) ? (
    <text x={b + 4} y={y} fontSize={13} fill="var(--soot)">
      {text}
    </text>
  ) : null;
}

const PLACES: Record<string, string> = {
  fridge: "color-mix(in srgb, var(--air) 30%, var(--panel))",
  warm: "color-mix(in srgb, var(--brick) 28%, var(--panel))",
};

/** What the dough does between its steps. */
export function Wait({
  wait,
  result,
  scale,
}: {
  wait: Result["waits"][number];
  result: Result;
  scale: Scale;
}) {
  const a = Math.max(LEFT, scale.x(minuteOf(wait.from_at)));
  const b = Math.min(scale.width - RIGHT, scale.x(minuteOf(wait.to_at)));
  const y = scale.laneY("dough");
  // The evening's bars also say what begins them: a task of two minutes has no room of its own.
  const begun = result.steps.find((s) => s.lane === "dough" && s.ends === wait.from_at);
  const named = scale.evening && begun ? `${clock(begun.at)} ${short(begun)}; ${wait.name}` : wait.name;
  const text = `${named}, ${spell(wait.minutes)}`;
  return (
    <g>
      <rect
        x={a}
        y={y}
        width={Math.max(1.5, b - a)}
        height={BAR}
        fill={PLACES[wait.place] ?? "var(--well)"}
        stroke="var(--panel)"
      />
      {b - a > named.length * 6.6 + 12 ? (
        <text x={a + 7} y={y + 18} fontSize={13} fill="var(--soot)">
          {b - a > text.length * 6.6 + 14 ? text : named}
        </text>
      ) : null}
    </g>
  );
}
