import { useLever, type FireHands, type FireState } from "./FlameSection";
import { SectionFilling, SectionPizza } from "./SectionPizza";
import { useUnits } from "./units";

const W = 540;
const H = 330;
const GRATE_Y = 208;
const LEFT = 56;
const RIGHT = 452;

/** A grill cut open from the side: fire below, grate, what stands on it, the hood above. */
export function GrillSection({ fire, hands }: { fire: FireState; hands: FireHands }) {
  const units = useUnits();
  const gas = fire.kind === "gas_grill";
  const face = useLever(fire.faceC, [fire.lowestC, fire.hottestC, 5], 6, hands.onFace, hands.onDrag);
  const lift = useLever(fire.domeOverK, [fire.domeLowK, fire.domeHighK, 1], 3, hands.onDome, hands.onDrag);
  const strength = (fire.domeOverK - fire.domeLowK) / (fire.domeHighK - fire.domeLowK);
  const bare = fire.surface?.kind === "grate" || !fire.surface;
  const raised = bare ? 0 : 8 + 40 * strength;
  const thick = fire.surface && !bare ? Math.max(4, (fire.surface.thicknessMm / 10) * 7) : 0;
  const top = GRATE_Y - raised - thick;
  const cx = (LEFT + RIGHT) / 2;
  const heat = (fire.faceC - fire.lowestC) / Math.max(1, fire.hottestC - fire.lowestC);
  const place = bare
    ? strength < 0.5
      ? "hood just shut"
      : "hood heated through"
    : strength < 0.34
      ? "down on the grate"
      : strength < 0.75
        ? "raised on bricks"
        : "close under the hood";
  const lever = (
    <text x="508" y={GRATE_Y - 70} fontSize="12.5" fill="var(--ash)" textAnchor="middle">
      <tspan x="508">drag it</tspan>
      <tspan x="508" dy="15">
        up or down
      </tspan>
    </text>
  );
  return (
    <svg
      viewBox={`0 0 ${String(W)} ${String(H)}`}
      className="h-full w-full touch-none select-none"
      role="group"
      aria-label={`The grill from the side: ${bare ? "grate" : "stone"} ${units.temp(fire.nowC)}, launch at ${units.temp(fire.faceC)}, hood ${units.tempDifference(Math.abs(fire.domeOverK))} ${fire.domeOverK < 0 ? "under" : "over"} it, ${place}.`}
    >
      {/* hood */}
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
      {/* firebox */}
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
      <g
        {...face}
        aria-label="Grate or stone at launch"
        aria-valuetext={`launch at ${units.temp(fire.faceC)}`}
        data-testid="floor"
      >
        <rect x={LEFT} y={GRATE_Y + 8} width={RIGHT - LEFT} height="74" fill="transparent" />
        {gas
          ? [0.14, 0.38, 0.62, 0.86].map((at) => {
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
            })
          : Array.from({ length: 17 }, (_, i) => (
              <circle
                key={i}
                cx={LEFT + 62 + (i * (RIGHT - LEFT - 124)) / 16}
                cy={278 + (i % 3) * 8}
                r="11"
                fill={i % 16 < 4 + heat * 10 && i % 2 === 0 ? "var(--brick)" : "var(--metal)"}
              />
            ))}
        <text
          x={cx}
          y="314"
          fontSize="12.5"
          textAnchor="middle"
          fill="var(--soot)"
          stroke="var(--cavity)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          launch at {units.temp(fire.faceC)}; drag the fire hotter or cooler
        </text>
      </g>
      {/* grate */}
      {Array.from({ length: 30 }, (_, i) => (
        <rect
          key={i}
          x={LEFT - 12 + (i * (RIGHT - LEFT + 18)) / 29}
          y={GRATE_Y}
          width="6"
          height="5"
          fill="var(--soot)"
        />
      ))}
      <g
        {...lift}
        aria-label={bare ? "Heat of the hood" : "Height over the grate"}
        aria-valuetext={`${place}, hood ${units.tempDifference(Math.abs(fire.domeOverK))} ${fire.domeOverK < 0 ? "under" : "over"}`}
        data-testid="lift"
      >
        <rect x={LEFT} y={top - 46} width={RIGHT - LEFT} height={GRATE_Y - top + 46} fill="transparent" />
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
      </g>
      <text
        x={cx}
        y={Math.max(96, top - 34)}
        fontSize="15"
        fontWeight="750"
        textAnchor="middle"
        fill="var(--soot)"
        stroke="var(--cavity)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {fire.pan ? "grate" : bare ? "grate" : "deck"} {units.temp(fire.nowC)}
      </text>
      {lever}
      <text x="508" y={GRATE_Y - 12} fontSize="12" fill="var(--ash)" textAnchor="middle">
        {place.split(" ").slice(0, 2).join(" ")}
      </text>
      <text x="508" y={GRATE_Y + 2} fontSize="12" fill="var(--ash)" textAnchor="middle">
        {place.split(" ").slice(2).join(" ")}
      </text>
    </svg>
  );
}
