import { HeatLabel } from "./HeatLabel";
import { useLever, type FireHands, type FireState } from "./FlameSection";
import { Burning, Firebox, GRATE_Y, H, Hood, LEFT, OnTheGrate, RIGHT, standing, W } from "./GrillParts";
import { useUnits } from "./units";

/** A grill cut open from the side: fire below, grate, what stands on it, the hood above. */
export function GrillSection({ fire, hands }: { fire: FireState; hands: FireHands }) {
  const units = useUnits();
  const gas = fire.kind === "gas_grill";
  const face = useLever(fire.faceC, [fire.lowestC, fire.hottestC, 5], 6, hands.onFace, hands.onDrag);
  const lift = useLever(fire.domeOverK, [fire.domeLowK, fire.domeHighK, 1], 3, hands.onDome, hands.onDrag);
  const at = standing(fire);
  const { bare, top, place } = at;
  const cx = (LEFT + RIGHT) / 2;
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
      <Hood fire={fire} />
      <Firebox gas={gas} />
      <g
        {...face}
        aria-label="Grate or stone at launch"
        aria-valuetext={`launch at ${units.temp(fire.faceC)}`}
        data-testid="floor"
      >
        <rect x={LEFT} y={GRATE_Y + 8} width={RIGHT - LEFT} height="74" fill="transparent" />
        <Burning fire={fire} gas={gas} />
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
        <OnTheGrate fire={fire} at={at} />
      </g>
      <HeatLabel
        x={cx}
        y={Math.max(96, top - 34)}
        what={fire.pan || bare ? "grate" : "deck"}
        tempC={fire.nowC}
      />
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
