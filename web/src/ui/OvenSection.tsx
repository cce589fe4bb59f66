import { useRef, useState } from "react";
import { H, ovenGeometry, W, type OvenState } from "./ovenGeometry";
import { BottomHeat, Fan, Overhead, Racks, TopElement } from "./OvenParts";
import { OvenSupport } from "./OvenSupport";
import { useDrag } from "./useDrag";
import { useUnits } from "./units";

export type { OvenState } from "./ovenGeometry";

/** The oven cut open and seen from the side, to scale; the deck can be dragged, the element pressed. */
export function OvenSection({
  oven,
  onLevel,
  onDrag,
  onTop,
  onFan,
}: {
  oven: OvenState;
  onLevel: (level: number) => void;
  onDrag: (dragging: boolean) => void;
  onTop: () => void;
  onFan: () => void;
}) {
  const units = useUnits();
  const at = ovenGeometry(oven);
  const { CAVITY, levels, levelY, quietY } = at;
  const [hand, setHand] = useState<number | null>(null);
  const last = useRef(oven.level);
  const drag = useDrag(
    (_, y) => {
      setHand(Math.max(CAVITY.y + 40, Math.min(CAVITY.y + CAVITY.h - 6, y)));
      const level = at.nearest(y);
      if (level !== last.current) {
        last.current = level;
        onDrag(true);
        onLevel(level);
      }
    },
    () => {
      setHand(null);
      onDrag(false);
    },
  );
  last.current = oven.level;
  const support = [oven.pan?.kind, oven.deck?.kind]
    .filter((kind) => kind !== undefined)
    .map((kind) => kind.replace("_", " "))
    .join(" on ");
  return (
    <svg
      viewBox={`0 0 ${String(W)} ${String(H)}`}
      className="h-full w-full touch-none select-none"
      role="group"
      aria-label={`The oven from the side. ${support} on level ${String(oven.level)} of ${String(levels)}, deck ${units.temp(oven.deckC)}, air ${units.temp(oven.airC)}, top element ${oven.topText}, fan ${oven.fan ? "on" : "off"}.`}
    >
      <rect
        x={CAVITY.x - 12}
        y={CAVITY.y - 12}
        width={CAVITY.w + 24}
        height={CAVITY.h + 24}
        fill="var(--metal)"
        opacity="0.35"
      />
      <rect x={CAVITY.x} y={CAVITY.y} width={CAVITY.w} height={CAVITY.h} fill="var(--cavity)" />
      <Racks oven={oven} at={at} />
      <TopElement oven={oven} at={at} onTop={onTop} />
      <BottomHeat oven={oven} at={at} />
      <Overhead oven={oven} at={at} />
      <Fan oven={oven} at={at} onFan={onFan} />
      <text
        x={CAVITY.x + CAVITY.w - 12}
        y={quietY + 4.5}
        fontSize="13.5"
        textAnchor="end"
        fill="var(--air)"
        fontWeight="650"
      >
        air {units.temp(oven.airC)}
      </text>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Level of the deck"
        aria-orientation="vertical"
        aria-valuemin={1}
        aria-valuemax={levels}
        aria-valuenow={oven.level}
        aria-valuetext={`level ${String(oven.level)}`}
        data-testid="deck"
        className="cursor-ns-resize"
        onKeyDown={(e) => {
          const step = e.key === "ArrowUp" ? 1 : e.key === "ArrowDown" ? -1 : 0;
          if (!step) return;
          e.preventDefault();
          const next = oven.level + step;
          if (next >= 1 && next <= levels) onLevel(next);
        }}
        {...drag}
      >
        <OvenSupport oven={oven} at={at} top={(hand ?? levelY(oven.level)) - 2} />
      </g>
    </svg>
  );
}
