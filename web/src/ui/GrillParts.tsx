import type { FireState } from "./FlameSection";
import { SectionFilling, SectionPizza } from "./SectionPizza";
import { useUnits } from "./units";

export const W = 540;
export const H = 330;
export const GRATE_Y = 208;
export const LEFT = 56;
export const RIGHT = 452;
const cx = (LEFT + RIGHT) / 2;

/** How what stands on a grill stands: how high, how thick, and in words. */
export function standing(fire: FireState) {
  const strength = (fire.domeOverK - fire.domeLowK) / (fire.domeHighK - fire.domeLowK);
  const bare = fire.surface?.kind === "grate" || !fire.surface;
  const raised = bare ? 0 : 8 + 40 * strength;
  const thick = fire.surface && !bare ? Math.max(4, (fire.surface.thicknessMm / 10) * 7) : 0;
  const top = GRATE_Y - raised - thick;
  const place = bare
    ? strength < 0.5
      ? "hood just shut"
      : "hood heated through"
    : strength < 0.34
      ? "down on the grate"
      : strength < 0.75
        ? "raised on bricks"
        : "close under the hood";
  return { bare, raised, thick, top, place };
}

export type Standing = ReturnType<typeof standing>;

export function Hood({ fire }: { fire: FireState }) {
  const units = useUnits();
  return (
    <>
      <path
        d={`M${String(LEFT - 22)} ${String(GRATE_Y - 4)} Q${String(LEFT - 22)} 30 210 24 H300 Q${String(RIGHT + 22)} 30 ${String(RIGHT + 22)} ${String(GRATE_Y - 4)} H${String(RIGHT + 6)} Q${String(RIGHT + 4)} 44 298 42 H212 Q${String(LEFT - 4)} 44 ${String(LEFT - 6)} ${String(GRATE_Y - 4)} Z`}
        fill="var(--metal)"
        opacity="0.5"
      />
      <path
        d={`M${String(LEFT - 6)} ${String(GRATE_Y - 4)} Q${String(LEFT - 4)} 44 212 42 H298 Q${String(RIGHT + 4)} 44 ${String(RIGHT + 6)} ${String(GRATE_Y - 4)} Z`}
        fill="var(--cavity)"
      />
      <text x={cx} y="64" fontSize="14" fontWeight="750" textAnchor="middle" fill="var(--soot)">
        hood {units.temp(fire.faceC + fire.domeOverK)}
      </text>
      <text x={LEFT + 52} y="112" fontSize="13.5" fontWeight="650" fill="var(--air)">
        air {units.temp(fire.airC)}
      </text>
    </>
  );
}

/** The firebox, of a gas grill or of one with coals. */
export function Firebox({ gas }: { gas: boolean }) {
  return (
    <path
      d={
        gas
          ? `M${String(LEFT - 20)} ${String(GRATE_Y + 4)} H${String(RIGHT + 20)} L${String(RIGHT - 6)} 296 H${String(LEFT + 6)} Z`
          : `M${String(LEFT - 20)} ${String(GRATE_Y + 4)} H${String(RIGHT + 20)} Q${String(RIGHT - 30)} 322 ${String(cx)} 322 Q${String(LEFT + 30)} 322 ${String(LEFT - 20)} ${String(GRATE_Y + 4)} Z`
      }
      fill="var(--cavity)"
      stroke="var(--metal)"
      strokeWidth="6"
    />
  );
}

/** Burners or coals, as strong as the fire is set. */
export function Burning({ fire, gas }: { fire: FireState; gas: boolean }) {
  const heat = (fire.faceC - fire.lowestC) / Math.max(1, fire.hottestC - fire.lowestC);
  if (gas)
    return [0.14, 0.38, 0.62, 0.86].map((at) => {
      const x = LEFT + (RIGHT - LEFT) * at;
      const h = 20 + 22 * heat;
      return (
        <g key={at}>
          <path
            d={`M${String(x)} 276 q${String(-h * 0.45)} ${String(-h * 0.45)} 0 ${String(-h)} q${String(h * 0.45)} ${String(h * 0.5)} 0 ${String(h)}`}
            fill="var(--brick)"
            opacity="0.85"
          />
          <rect x={x - 24} y="277" width="48" height="6" rx="3" fill="var(--metal)" />
        </g>
      );
    });
  return Array.from({ length: 17 }, (_, i) => (
    <circle
      key={i}
      cx={LEFT + 62 + (i * (RIGHT - LEFT - 124)) / 16}
      cy={278 + (i % 3) * 8}
      r="11"
      fill={i % 16 < 4 + heat * 10 && i % 2 === 0 ? "var(--brick)" : "var(--metal)"}
    />
  ));
}

/** What stands on the grate: a deck on bricks, a pan, or the pizza itself. */
export function OnTheGrate({ fire, at }: { fire: FireState; at: Standing }) {
  const { bare, raised, thick, top } = at;
  return (
    <>
      {bare ? null : (
        <>
          {[cx - 118, cx + 90].map((x) => (
            <rect
              key={x}
              x={x}
              y={GRATE_Y - raised}
              width="28"
              height={raised}
              fill="#b98a5c"
              stroke="var(--soot)"
              strokeWidth="0.6"
            />
          ))}
          <rect
            x={cx - 130}
            y={top}
            width="260"
            height={thick}
            fill={fire.surface?.kind === "steel" ? "var(--metal)" : "var(--stone)"}
            stroke="var(--soot)"
            strokeWidth="0.8"
          />
        </>
      )}
      {fire.pan ? (
        <>
          <SectionFilling
            cx={cx}
            base={top - 3}
            width={fire.pan.widthCm * 7 - 6}
            rise={fire.rise}
            crust={fire.crustColour}
            cheese={fire.cheeseColour}
          />
          <path
            d={`M${String(cx - fire.pan.widthCm * 3.5 - 4)} ${String(top - 28)} L${String(cx - fire.pan.widthCm * 3.5)} ${String(top - 2)} H${String(cx + fire.pan.widthCm * 3.5)} L${String(cx + fire.pan.widthCm * 3.5 + 4)} ${String(top - 28)}`}
            fill="none"
            stroke="var(--soot)"
            strokeWidth="5"
          />
        </>
      ) : (
        <SectionPizza
          cx={cx}
          base={top}
          cm={Math.min(fire.pizzaCm, 34)}
          px={7}
          rise={fire.rise}
          crust={fire.crustColour}
          cheese={fire.cheeseColour}
        />
      )}
    </>
  );
}
