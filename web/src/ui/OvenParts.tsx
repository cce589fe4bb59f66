import type { KeyboardEvent } from "react";
import { drawnMm, LABEL_X, PX, type OvenGeometry, type OvenState } from "./ovenGeometry";

interface Part {
  oven: OvenState;
  at: OvenGeometry;
}

/** What is pressed like a button in a drawing. */
function pressed(act: () => void) {
  return {
    role: "button",
    tabIndex: 0,
    className: "cursor-pointer",
    onClick: act,
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key === "Enter" || e.key === " ") {
        e.preventDefault();
        act();
      }
    },
  } as const;
}

/** The levels of the racks with their numbers. */
export function Racks({ oven, at }: Part) {
  const { CAVITY, levels, levelY } = at;
  return (
    <>
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
    </>
  );
}

/** The element overhead: pressed to be lit, where it may be. */
export function TopElement({ oven, at, onTop }: Part & { onTop: () => void }) {
  const { CAVITY } = at;
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
    <>
      {oven.topUsable ? (
        <g
          aria-label={`Top element: ${oven.topText}. Press to change.`}
          aria-pressed={oven.topText !== "off"}
          {...pressed(onTop)}
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
    </>
  );
}

/** Burner or element below. */
export function BottomHeat({ oven, at }: Part) {
  const { CAVITY } = at;
  return (
    <>
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
    </>
  );
}

/** A second deck, a shield, where the food will be moved. */
export function Overhead({ oven, at }: Part) {
  const { CAVITY, levels, levelY } = at;
  return (
    <>
      {oven.overhead ? (
        <g>
          <rect
            x={CAVITY.x + CAVITY.w / 2 - 18 * PX}
            y={levelY(oven.overhead.level) - 2 - drawnMm(oven.overhead.thicknessMm, 3)}
            width={36 * PX}
            height={drawnMm(oven.overhead.thicknessMm, 3)}
            fill={oven.overhead.kind === "steel" ? "var(--metal)" : "var(--stone)"}
            stroke="var(--soot)"
            strokeWidth="0.8"
          />
          <text x={CAVITY.x + 10} y={levelY(oven.overhead.level) + 13} fontSize="12.5" fill="var(--ash)">
            {oven.overhead.name}
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
    </>
  );
}

export function Fan({ oven, at, onFan }: Part & { onFan: () => void }) {
  const { CAVITY, quietY } = at;
  if (!oven.hasFan) return null;
  return (
    <g
      aria-label={`Fan ${oven.fan ? "on" : "off"}. Press to change.`}
      aria-pressed={oven.fan}
      {...pressed(onFan)}
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
  );
}
