import { useRef, useState } from "react";
import { SectionFilling, SectionPizza } from "./SectionPizza";
import { useDrag } from "./useDrag";
import { useUnits } from "./units";

const W = 540;
const H = 330;
const PX = 8.4; // px for a centimetre
const LARGE = { x: 30, y: 26, w: 46 * PX, h: 33 * PX };
const SMALL = { x: 30 + 5 * PX, y: 26 + 6 * PX, w: 36 * PX, h: 21 * PX };
const LABEL_X = LARGE.x + LARGE.w + 16;

export interface OvenState {
  kind: string;
  /** A second deck above: its level, kind and thickness. */
  overhead: { level: number; kind: string; thicknessMm: number } | null;
  /** An empty sheet lies over the food at the moment shown. */
  shielded: boolean;
  /** Where the food will be moved, or was at first. */
  alsoLevel: number | null;
  /** Heights of the rack levels over the floor, bottom to top. */
  heightsCm: readonly number[];
  cavityCm: number;
  level: number;
  fan: boolean;
  hasFan: boolean;
  topUsable: boolean;
  /** Whether the top element glows at the moment shown, and when it is set to. */
  topGlows: boolean;
  topText: string;
  bottomText: string;
  deckC: number;
  airC: number;
  crustColour: string;
  cheeseColour: string;
  /** What stands on the rack; a pan may stand on a deck. `filled`: the dough is proofed in the pan. */
  deck: { kind: string; thicknessMm: number; widthCm: number } | null;
  pan: { kind: string; thicknessMm: number; widthCm: number; filled: boolean } | null;
  pizzaCm: number;
  rise: number;
}

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
  const CAVITY = oven.kind === "countertop_oven" ? SMALL : LARGE;
  const levels = oven.heightsCm.length;
  const levelY = (level: number) =>
    CAVITY.y + CAVITY.h * (1 - (oven.heightsCm[level - 1] ?? 0) / oven.cavityCm);
  const [hand, setHand] = useState<number | null>(null);
  const last = useRef(oven.level);
  const nearest = (y: number): number => {
    let best = 1;
    for (let l = 1; l <= levels; l++) if (Math.abs(levelY(l) - y) < Math.abs(levelY(best) - y)) best = l;
    return best;
  };
  const drag = useDrag(
    (_, y) => {
      setHand(Math.max(CAVITY.y + 40, Math.min(CAVITY.y + CAVITY.h - 6, y)));
      const level = nearest(y);
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
  const rackY = levelY(oven.level);
  const deckTop = (hand ?? rackY) - 2;
  const deckThick = oven.deck ? Math.max(2.5, (oven.deck.thicknessMm / 10) * PX) : 0;
  const panThick = oven.pan ? Math.max(2.5, (oven.pan.thicknessMm / 10) * PX) : 0;
  const thick = deckThick + panThick;
  const deckW = Math.min(oven.deck?.widthCm ?? 0, 45) * PX;
  const panW = Math.min(oven.pan?.widthCm ?? 0, 45) * PX;
  const wide = Math.max(deckW, panW);
  const cx = CAVITY.x + CAVITY.w / 2;
  const support = [oven.pan?.kind, oven.deck?.kind]
    .filter((kind) => kind !== undefined)
    .map((kind) => kind.replace("_", " "))
    .join(" on ");
  // The fan and the air's figure keep out of the deck's way.
  const quietY = oven.level > levels / 2 ? CAVITY.y + CAVITY.h - 62 : CAVITY.y + 78;
  const top = (
    <g>
      {Array.from({ length: 9 }, (_, i) => (
        <circle
          key={i}
          cx={CAVITY.x + 28 + (i * (CAVITY.w - 56)) / 8}
          cy={CAVITY.y + 13}
          r="5.5"
          fill={oven.topGlows ? "var(--brick)" : "none"}
          stroke={oven.topGlows ? "var(--brick)" : "var(--metal)"}
          strokeWidth="1.6"
        />
      ))}
    </g>
  );
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
      {Array.from({ length: levels }, (_, i) => {
        const level = i + 1;
        const y = levelY(level);
        const here = level === oven.level;
        return (
          <g key={level}>
            <line
              x1={CAVITY.x}
              x2={CAVITY.x + CAVITY.w}
              y1={y}
              y2={y}
              stroke={here ? "var(--soot)" : "var(--line)"}
              strokeWidth={here ? 1.8 : 1}
              strokeDasharray={here ? undefined : "3 4"}
            />
            <text
              x={LABEL_X}
              y={y + 4.5}
              fontSize="13.5"
              fontWeight={here ? 750 : 400}
              fill={here ? "var(--soot)" : "var(--ash)"}
            >
              {level}
              {here ? `  ${(oven.deck ?? oven.pan)?.kind.replace("_", " ") ?? ""}` : ""}
            </text>
          </g>
        );
      })}
      {oven.topUsable ? (
        <g
          role="button"
          tabIndex={0}
          aria-label={`Top element: ${oven.topText}. Press to change.`}
          aria-pressed={oven.topText !== "off"}
          className="cursor-pointer"
          onClick={onTop}
          onKeyDown={(e) => {
            if (e.key === "Enter" || e.key === " ") {
              e.preventDefault();
              onTop();
            }
          }}
        >
          <rect x={CAVITY.x} y={CAVITY.y} width={CAVITY.w} height="27" fill="transparent" />
          {top}
        </g>
      ) : (
        top
      )}
      <text x={LABEL_X} y={CAVITY.y + 11} fontSize="13" fontWeight="700" fill="var(--soot)">
        top element
      </text>
      <text
        x={LABEL_X}
        y={CAVITY.y + 26}
        fontSize="12.5"
        fill={oven.topText === "off" ? "var(--ash)" : "var(--brick)"}
        fontWeight="600"
      >
        {oven.topUsable ? oven.topText : "not with the door shut"}
      </text>
      <text x={LABEL_X} y={CAVITY.y + CAVITY.h - 2} fontSize="12.5" fill="var(--ash)">
        {oven.bottomText}
      </text>
      {Array.from({ length: 9 }, (_, i) =>
        oven.kind === "gas_oven" ? (
          <path
            key={i}
            d={`M${String(CAVITY.x + 28 + (i * (CAVITY.w - 56)) / 8)} ${String(CAVITY.y + CAVITY.h + 8)} q-6 -8 0 -17 q6 9 0 17`}
            fill="var(--brick)"
            opacity="0.85"
          />
        ) : (
          <rect
            key={i}
            x={CAVITY.x + 24 + (i * (CAVITY.w - 56)) / 8}
            y={CAVITY.y + CAVITY.h - 7}
            width="8"
            height="4"
            fill={oven.fan ? "var(--line)" : "var(--metal)"}
          />
        ),
      )}
      {oven.overhead ? (
        <g>
          <rect
            x={CAVITY.x + CAVITY.w / 2 - 18 * PX}
            y={levelY(oven.overhead.level) - 2 - Math.max(3, (oven.overhead.thicknessMm / 10) * PX)}
            width={36 * PX}
            height={Math.max(3, (oven.overhead.thicknessMm / 10) * PX)}
            fill={oven.overhead.kind === "steel" ? "var(--metal)" : "var(--stone)"}
            stroke="var(--soot)"
            strokeWidth="0.8"
          />
          <text x={CAVITY.x + 10} y={levelY(oven.overhead.level) + 13} fontSize="12.5" fill="var(--ash)">
            second deck
          </text>
        </g>
      ) : null}
      {oven.shielded ? (
        <g>
          <rect
            x={CAVITY.x + CAVITY.w / 2 - 20 * PX}
            y={levelY(Math.min(levels, oven.level + 1)) - 5}
            width={40 * PX}
            height="3"
            fill="var(--air)"
          />
          <text
            x={CAVITY.x + 10}
            y={levelY(Math.min(levels, oven.level + 1)) + 11}
            fontSize="12.5"
            fill="var(--air)"
          >
            shield
          </text>
        </g>
      ) : null}
      {oven.alsoLevel !== null ? (
        <text
          x={CAVITY.x + CAVITY.w - 10}
          y={levelY(oven.alsoLevel) - 4}
          fontSize="12.5"
          textAnchor="end"
          fill="var(--ash)"
        >
          moves here
        </text>
      ) : null}
      {oven.hasFan ? (
        <g
          role="button"
          tabIndex={0}
          aria-label={`Fan ${oven.fan ? "on" : "off"}. Press to change.`}
          aria-pressed={oven.fan}
          className="cursor-pointer"
          onClick={onFan}
          onKeyDown={(e) => {
            if (e.key === "Enter" || e.key === " ") {
              e.preventDefault();
              onFan();
            }
          }}
        >
          <circle cx={CAVITY.x + 36} cy={quietY} r="24" fill="transparent" />
          <circle
            cx={CAVITY.x + 36}
            cy={quietY}
            r="17"
            fill="none"
            stroke={oven.fan ? "var(--air)" : "var(--line)"}
            strokeWidth="1.6"
          />
          {[0, 120, 240].map((a) => (
            <path
              key={a}
              transform={`rotate(${String(a)} ${String(CAVITY.x + 36)} ${String(quietY)})`}
              d={`M${String(CAVITY.x + 36)} ${String(quietY)} q10 -4 8 -13 q-9 1 -8 13`}
              fill={oven.fan ? "var(--air)" : "var(--line)"}
            />
          ))}
          <text
            x={CAVITY.x + 58}
            y={quietY + 4.5}
            fontSize="12.5"
            fill={oven.fan ? "var(--air)" : "var(--ash)"}
            fontWeight={oven.fan ? 700 : 400}
          >
            fan {oven.fan ? "on" : "off"}
          </text>
        </g>
      ) : null}
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
        <rect
          x={cx - wide / 2 - 8}
          y={deckTop - thick - 36}
          width={wide + 16}
          height={thick + 46}
          fill="transparent"
        />
        {oven.deck ? (
          <rect
            x={cx - deckW / 2}
            y={deckTop - deckThick}
            width={deckW}
            height={deckThick}
            fill={
              oven.deck.kind === "stone" || oven.deck.kind === "firebrick" ? "var(--stone)" : "var(--metal)"
            }
            stroke="var(--soot)"
            strokeWidth="0.8"
          />
        ) : null}
        {oven.pan?.filled ? (
          <SectionFilling
            cx={cx}
            base={deckTop - thick}
            width={panW - 4}
            rise={oven.rise}
            crust={oven.crustColour}
            cheese={oven.cheeseColour}
          />
        ) : (
          <SectionPizza
            px={PX}
            cx={cx}
            base={deckTop - thick}
            cm={oven.pizzaCm}
            rise={oven.rise}
            crust={oven.crustColour}
            cheese={oven.cheeseColour}
          />
        )}
        {oven.pan ? (
          <path
            d={`M${String(cx - panW / 2 - 6)} ${String(deckTop - thick - (oven.pan.filled ? 26 : 12))} L${String(cx - panW / 2)} ${String(deckTop - deckThick - panThick / 2)} H${String(cx + panW / 2)} L${String(cx + panW / 2 + 6)} ${String(deckTop - thick - (oven.pan.filled ? 26 : 12))}`}
            fill="none"
            stroke={oven.pan.kind === "bright_aluminium" ? "var(--stone)" : "var(--soot)"}
            strokeWidth={Math.max(2.4, panThick)}
          />
        ) : null}
        <text
          x={cx}
          y={deckTop + 17}
          fontSize="15"
          fontWeight="750"
          textAnchor="middle"
          fill="var(--soot)"
          stroke="var(--cavity)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {oven.deck ? "deck" : oven.pan?.filled ? "pan" : "tray"} {units.temp(oven.deckC)}
        </text>
      </g>
    </svg>
  );
}
