import { useState } from "react";
import { SectionPizza } from "./SectionPizza";
import { useDrag } from "./useDrag";
import { useUnits } from "./units";

export interface FireState {
  kind: string;
  /** Floor or grate wanted at launch, and now. */
  faceC: number;
  nowC: number;
  airC: number;
  domeOverK: number;
  lowestC: number;
  hottestC: number;
  domeLowK: number;
  domeHighK: number;
  surface: { kind: string; thicknessMm: number } | null;
  pan: { widthCm: number; filled: boolean } | null;
  pizzaCm: number;
  rise: number;
  crustColour: string;
  cheeseColour: string;
}

export interface FireHands {
  onFace: (celsius: number) => void;
  onDome: (kelvin: number) => void;
  onDrag: (dragging: boolean) => void;
}

const W = 540;
const H = 330;

/** A slider of the drawing: arrow keys and dragging up and down. */
export function useLever(
  value: number,
  [low, high, step]: readonly [number, number, number],
  pxPerStep: number,
  set: (value: number) => void,
  onDrag: (dragging: boolean) => void,
) {
  const [from, setFrom] = useState<{ y: number; value: number } | null>(null);
  const clamp = (v: number) => Math.max(low, Math.min(high, Math.round(v / step) * step));
  const drag = useDrag(
    (_, y) => {
      if (!from) {
        setFrom({ y, value });
        return;
      }
      onDrag(true);
      const next = clamp(from.value + ((from.y - y) / pxPerStep) * step);
      if (next !== value) set(next);
    },
    () => {
      setFrom(null);
      onDrag(false);
    },
  );
  return {
    role: "slider",
    tabIndex: 0,
    "aria-orientation": "vertical" as const,
    "aria-valuemin": Math.round(low),
    "aria-valuemax": Math.round(high),
    "aria-valuenow": Math.round(value),
    className: "cursor-ns-resize",
    onKeyDown: (e: React.KeyboardEvent) => {
      const by = e.key === "ArrowUp" ? step : e.key === "ArrowDown" ? -step : 0;
      if (!by) return;
      e.preventDefault();
      set(clamp(value + by));
    },
    ...drag,
  };
}

/** A flame oven cut open from the side: floor, dome, the flame at the back licking forward, the mouth in front. */
export function FlameSection({ fire, hands }: { fire: FireState; hands: FireHands }) {
  const units = useUnits();
  const floorY = 262;
  const left = 46;
  const right = 470;
  const face = useLever(fire.faceC, [fire.lowestC, fire.hottestC, 5], 6, hands.onFace, hands.onDrag);
  const dome = useLever(fire.domeOverK, [fire.domeLowK, fire.domeHighK, 2], 4, hands.onDome, hands.onDrag);
  const strength = (fire.domeOverK - fire.domeLowK) / (fire.domeHighK - fire.domeLowK);
  const reach = 90 + 210 * strength;
  const tall = 90 + 62 * strength;
  const word = strength < 0.34 ? "low" : strength < 0.75 ? "half" : "full";
  return (
    <svg
      viewBox={`0 0 ${String(W)} ${String(H)}`}
      className="h-full w-full touch-none select-none"
      role="group"
      aria-label={`The flame oven from the side: floor ${units.temp(fire.nowC)}, launch at ${units.temp(fire.faceC)}, dome ${units.tempDifference(fire.domeOverK)} over the floor, flame ${word}.`}
    >
      {/* shell and chamber */}
      <path
        d={`M${String(left - 26)} ${String(floorY + 26)} V190 Q${String(left - 26)} 44 230 34 Q420 30 ${String(right + 10)} 122 L${String(right + 22)} ${String(floorY - 66)} H${String(right - 2)} Q400 66 232 66 Q${String(left)} 74 ${String(left)} 192 V${String(floorY + 26)} Z`}
        fill="var(--metal)"
        opacity="0.45"
      />
      <path
        d={`M${String(left)} ${String(floorY)} V192 Q${String(left)} 74 232 66 Q400 66 ${String(right - 2)} ${String(floorY - 66)} V${String(floorY)} Z`}
        fill="var(--cavity)"
      />
      {/* mouth */}
      <path
        d={`M${String(right - 2)} ${String(floorY - 66)} V${String(floorY)}`}
        stroke="var(--line)"
        strokeDasharray="4 4"
      />
      <text x={right + 6} y={floorY - 22} fontSize="12.5" fill="var(--ash)">
        mouth
      </text>
      {/* flame */}
      <g
        {...dome}
        aria-label="Flame"
        aria-valuetext={`flame ${word}, dome ${units.tempDifference(fire.domeOverK)} over the floor`}
        data-testid="flame"
      >
        <rect x={left} y="70" width="96" height={floorY - 70} fill="transparent" />
        <path
          d={`M${String(left + 8)} ${String(floorY - 4)} C${String(left - 4)} ${String(floorY - tall * 0.6)} ${String(left + 26)} ${String(floorY - tall)} ${String(left + 52)} ${String(floorY - tall - 34)} C${String(left + reach * 0.55)} ${String(84 - 4 * strength)} ${String(left + reach)} ${String(84 + 8 * strength)} ${String(left + reach + 40)} 112 C${String(left + reach)} 108 ${String(left + reach * 0.6)} 112 ${String(left + 84)} ${String(floorY - tall * 0.7)} C${String(left + 76)} ${String(floorY - 60)} ${String(left + 62)} ${String(floorY - 20)} ${String(left + 56)} ${String(floorY - 4)} Z`}
          fill="var(--brick)"
          opacity="0.85"
        />
        <path
          d={`M${String(left + 20)} ${String(floorY - 4)} q-6 -46 18 -74 q12 34 4 74 Z`}
          fill="var(--cavity)"
          opacity="0.55"
        />
        <text x={left + 6} y={floorY - tall - 50 > 100 ? 100 : 96} fontSize="0">
          {word}
        </text>
      </g>
      <text
        x="250"
        y="58"
        fontSize="14"
        fontWeight="750"
        fill="var(--soot)"
        textAnchor="middle"
        stroke="var(--ground)"
        strokeWidth="0"
      >
        dome {units.temp(fire.faceC + fire.domeOverK)}
      </text>
      <text x={left + 112} y="150" fontSize="13.5" fontWeight="650" fill="var(--air)">
        air {units.temp(fire.airC)}
      </text>
      <text x={left + 4} y={floorY + 58} fontSize="12.5" fill="var(--ash)">
        drag the flame: {word}
      </text>
      {/* floor */}
      <g
        {...face}
        aria-label="Floor at launch"
        aria-valuetext={`launch at ${units.temp(fire.faceC)}`}
        data-testid="floor"
      >
        <rect x={left + 100} y={floorY - 44} width={right - left - 104} height="92" fill="transparent" />
        <rect
          x={left}
          y={floorY}
          width={right - left}
          height="15"
          fill="var(--stone)"
          stroke="var(--soot)"
          strokeWidth="0.8"
        />
        <SectionPizza
          cx={left + 262}
          base={floorY}
          cm={Math.min(fire.pizzaCm, 34)}
          px={7}
          rise={fire.rise}
          crust={fire.crustColour}
          cheese={fire.cheeseColour}
        />
        <text
          x={left + 262}
          y={floorY + 34}
          fontSize="15"
          fontWeight="750"
          textAnchor="middle"
          fill="var(--soot)"
        >
          floor {units.temp(fire.nowC)}
        </text>
        <text x={left + 262} y={floorY + 52} fontSize="12.5" textAnchor="middle" fill="var(--ash)">
          launch at {units.temp(fire.faceC)}; drag it hotter or cooler
        </text>
      </g>
    </svg>
  );
}
