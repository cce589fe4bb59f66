import { crustColour, crustWord, type Reference } from "../../ui/crust";
import { bakeTime } from "../../ui/time";
import { SWATCHES } from "../../ui/SwatchRow";
import { lightness, type Entry } from "./book";

const WIDE = 640;

/** What was promised before the bake and what came: minutes on one axis, colours side by side. */
export function Foretold({ entry, reference }: { entry: Entry; reference: Reference }) {
  const told = entry.foretold;
  if (!told) return null;
  const end = 1.15 * Math.max(told.high_s, entry.pulled_s);
  const x = (s: number) => (WIDE * s) / end;
  const inside = entry.pulled_s >= told.low_s && entry.pulled_s <= told.high_s;
  const l = { base: told.base_l, rim: told.rim_l, cheese: told.cheese_l };
  return (
    <figure className="leaf mt-3 p-3">
      <figcaption>
        Foretold {bakeTime(told.likely_s)}, look from {bakeTime(told.low_s)} to {bakeTime(told.high_s)}.
        Pulled at <strong>{bakeTime(entry.pulled_s)}</strong>,{" "}
        {inside ? "inside the window" : "outside the window"}.
      </figcaption>
      <svg viewBox={`0 0 ${String(WIDE)} 44`} className="mt-2 block w-full" aria-hidden>
        <line x1="0" x2={WIDE} y1="22" y2="22" stroke="var(--line)" strokeWidth="2" />
        <rect
          x={x(told.low_s)}
          y="12"
          width={x(told.high_s) - x(told.low_s)}
          height="20"
          fill="var(--line)"
        />
        <line
          x1={x(told.likely_s)}
          x2={x(told.likely_s)}
          y1="8"
          y2="36"
          stroke="var(--ash)"
          strokeWidth="2"
        />
        <circle cx={x(entry.pulled_s)} cy="22" r="8" fill="var(--brick)" />
      </svg>
      <dl className="mt-1 grid grid-cols-3 gap-3">
        {SWATCHES.map(([part]) => {
          const words = part === "cheese" ? reference.cheese_words : reference.words;
          const came = lightness(entry.came[part], words);
          return (
            <div key={part}>
              <dt className="text-ash">{part}</dt>
              <dd className="flex h-9">
                <span className="flex-1" style={{ background: crustColour(reference.ramp, l[part]) }} />
                <span
                  className="flex-1 border-l-2 border-ground"
                  style={
                    came === null
                      ? { border: "2px dashed var(--line)" }
                      : { background: crustColour(reference.ramp, came) }
                  }
                />
              </dd>
              <dd className="flex justify-between gap-2 text-[13.5px]">
                <span>{crustWord(words, l[part])}</span>
                <span className="font-semibold">{came === null ? "not seen" : crustWord(words, came)}</span>
              </dd>
            </div>
          );
        })}
      </dl>
      <p className="text-[13.5px] text-ash">left as foretold, right as it came</p>
    </figure>
  );
}
