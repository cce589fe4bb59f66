import { useUnits } from "../../ui/units";
import type { Live } from "../../ui/bakeTypes";

type Launch = NonNullable<Live["launch"]>;
const W = 400;
const H = 190;

/** The deck's way: as planned, as the readings tell it, what was read, and now. */
export function DeckWay({
  launch,
  readings,
  nowMin,
  fromMin,
}: {
  launch: Launch;
  readings: readonly { minutes: number; deck_c: number }[];
  nowMin: number;
  /** From when on the deck is this pizza's. */
  fromMin: number;
}) {
  const units = useUnits();
  const last = Math.max(launch.at_s_high / 60, nowMin, fromMin + 10);
  const end = last + 0.08 * (last - fromMin);
  const wanted = launch.wanted_c ?? 250;
  const top = Math.max(wanted, ...launch.expected.deck_c, ...readings.map((one) => one.deck_c)) + 25;
  const x = (minutes: number) => (W * (minutes - fromMin)) / (end - fromMin);
  const least =
    fromMin > 0 ? Math.min(...launch.likely.deck_c, ...readings.map((one) => one.deck_c)) - 15 : 10;
  const y = (celsius: number) => H - (H * Math.max(0, celsius - least)) / (top - least);
  const path = (curve: Launch["expected"]) =>
    curve.minutes
      .map((m, i) => [m, curve.deck_c[i] ?? 0] as const)
      .filter(([m]) => m <= end && m >= fromMin - 1)
      .map(([m, c], i) => `${i ? "L" : "M"}${x(m).toFixed(1)} ${y(c).toFixed(1)}`)
      .join(" ");
  return (
    <svg
      viewBox={`0 0 ${String(W)} ${String(H + 20)}`}
      className="w-full bg-panel"
      role="img"
      aria-label={`The deck stands at about ${units.temp(launch.deck_now_c)}; ${units.temp(wanted)} is wanted.`}
    >
      <line x1={0} x2={W} y1={y(wanted)} y2={y(wanted)} stroke="var(--brick)" strokeDasharray="5 4" />
      <text x={6} y={y(wanted) - 6} fontSize="14" fontWeight="600" fill="var(--brick)">
        wanted {units.temp(wanted)}
      </text>
      <path d={path(launch.expected)} fill="none" stroke="var(--stone)" strokeWidth="2.5" />
      <path d={path(launch.likely)} fill="none" stroke="var(--soot)" strokeWidth="3" />
      <line x1={x(nowMin)} x2={x(nowMin)} y1={0} y2={H} stroke="var(--soot)" strokeWidth="1.5" />
      {readings.map((one, i) => (
        <circle key={i} cx={x(one.minutes)} cy={y(one.deck_c)} r="5.5" fill="var(--air)" />
      ))}
      <text x={6} y={H + 15} fontSize="13" fill="var(--ash)">
        thin: as planned, heavy: as it is
      </text>
      <text x={W - 6} y={H + 15} fontSize="13" textAnchor="end" fill="var(--ash)">
        {fromMin > 0
          ? `${String(Math.round(end - fromMin))} min since the last pull`
          : `${String(Math.round(end))} min`}
      </text>
    </svg>
  );
}
