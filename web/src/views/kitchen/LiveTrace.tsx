import { useUnits } from "../../ui/units";
import type { Reading } from "./useLive";

const W = 258;
const H = 130;
const LEFT = 30;

/** What a thermometer says, as it comes: the deck dark, the air blue-green. */
export function LiveTrace({ readings }: { readings: readonly Reading[] }) {
  const units = useUnits();
  const times = readings.map((r) => Date.parse(r.at));
  const start = times[0] ?? 0;
  const end = Math.max(start + 300_000, times.at(-1) ?? 0);
  const values = readings.flatMap((r) => [r.deck_c, r.air_c]).filter((v) => v !== null && v !== undefined);
  const hottest = Math.max(100, ...values) + 15;
  const x = (t: number) => LEFT + ((W - LEFT - 4) * (t - start)) / (end - start);
  const y = (c: number) => H - 16 - ((H - 22) * Math.max(0, c)) / hottest;
  const path = (pick: (r: Reading) => number | null) => {
    let pen = "M";
    let last = 0;
    return readings
      .map((r, i) => {
        const v = pick(r);
        if (v === null) return "";
        const t = times[i] ?? 0;
        // A gap of more than a minute is left open.
        if (t - last > 60_000) pen = "M";
        last = t;
        const step = `${pen}${x(t).toFixed(1)} ${y(v).toFixed(1)}`;
        pen = "L";
        return step;
      })
      .join("");
  };
  const newest = readings.at(-1);
  const newestOf = (pick: (r: Reading) => number | null) =>
    pick(readings.findLast((r) => pick(r) !== null) ?? { at: "", deck_c: null, air_c: null });
  const deck = newestOf((r) => r.deck_c);
  const air = newestOf((r) => r.air_c);
  const minutes = Math.round((end - start) / 60_000);
  return (
    <figure className="grid gap-1" data-readings={readings.length}>
      <p className="flex gap-5 font-display text-[26px] leading-none font-bold">
        {deck !== null ? <span>{units.temp(deck)}</span> : null}
        {air !== null ? <span className="text-air">{units.temp(air)}</span> : null}
      </p>
      <p className="text-[12.5px] text-ash">
        {deck !== null ? "deck" : ""}
        {deck !== null && air !== null ? ", air" : air !== null ? "air" : ""}
        {newest
          ? ` at ${new Date(newest.at).toLocaleTimeString([], { timeStyle: "medium", hour12: false })}`
          : ""}
      </p>
      <svg
        viewBox={`0 0 ${String(W)} ${String(H)}`}
        className="w-full"
        role="img"
        aria-label={`${String(readings.length)} readings over ${String(minutes)} minutes.`}
      >
        {[100, 200, 300].map((c) =>
          c < hottest ? (
            <g key={c}>
              <line x1={LEFT} x2={W} y1={y(c)} y2={y(c)} stroke="var(--line)" />
              <text x={LEFT - 4} y={y(c) + 3} textAnchor="end" fontSize="9" fill="var(--ash)">
                {units.temp(c).replace(/ .*/, "")}
              </text>
            </g>
          ) : null,
        )}
        <path d={path((r) => r.air_c)} fill="none" stroke="var(--air)" strokeWidth="1.4" />
        <path d={path((r) => r.deck_c)} fill="none" stroke="var(--soot)" strokeWidth="2" />
        <text x={W - 2} y={H - 3} textAnchor="end" fontSize="9" fill="var(--ash)">
          {minutes} min
        </text>
      </svg>
    </figure>
  );
}
