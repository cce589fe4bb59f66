import { useUnits } from "../../ui/units";
import { useWidth } from "../../ui/useWidth";
import { TempLines } from "./TempLines";
import type { Reading } from "./useLive";

const H = 400;
const LEFT = 42;

/** What a thermometer says, as it comes: the deck dark, the air blue-green. */
export function LiveTrace({ readings }: { readings: readonly Reading[] }) {
  const units = useUnits();
  const [ref, W] = useWidth(760);
  const times = readings.map((r) => Date.parse(r.at));
  const start = times[0] ?? 0;
  const end = Math.max(start + 300_000, times.at(-1) ?? 0);
  const values = readings.flatMap((r) => [r.deck_c, r.air_c]).filter((v) => v !== null && v !== undefined);
  const hottest = Math.max(100, ...values) + 15;
  const x = (t: number) => LEFT + ((W - LEFT - 4) * (t - start)) / (end - start);
  const y = (c: number) => H - 24 - ((H - 34) * Math.max(0, c)) / hottest;
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
    <figure ref={ref} className="grid gap-1" data-readings={readings.length}>
      <p className="flex flex-wrap gap-x-10 font-display text-[64px] leading-none font-bold">
        {deck !== null ? <span>{units.temp(deck)}</span> : null}
        {air !== null ? <span className="text-air">{units.temp(air)}</span> : null}
      </p>
      <p className="text-[17px] text-ash">
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
        <TempLines hottest={hottest} left={LEFT} right={W} y={y} />
        <path d={path((r) => r.air_c)} fill="none" stroke="var(--air)" strokeWidth="2" />
        <path d={path((r) => r.deck_c)} fill="none" stroke="var(--soot)" strokeWidth="3" />
        <text x={W - 2} y={H - 5} textAnchor="end" fontSize="12.5" fill="var(--ash)">
          {minutes} min
        </text>
      </svg>
    </figure>
  );
}
