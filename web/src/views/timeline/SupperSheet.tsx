import { clock, day } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { Later } from "./Later";
import { everyMin, lines } from "./Agenda";
import type { Told } from "./types";

/** The supper on paper: steps by day, what to buy, what to have ready. The ribbon prints above it. */
export function SupperSheet({ told, title }: { told: Told; title: string }) {
  const units = useUnits();
  const shown = lines(told.result);
  const every = everyMin(told.result);
  const days = [...new Set(shown.map((s) => day(s.at)))];
  return (
    <div className="hidden text-[10.5pt] leading-snug print:block" aria-label="The sheet">
      <p className="sr-only">{title}</p>
      <div className="grid grid-cols-[1.25fr_1fr] gap-6">
        <div>
          {days.map((d) => (
            <section key={d} className="mb-2">
              <h2 className="text-[13pt] font-bold">{d}</h2>
              <ul>
                {shown
                  .filter((s) => day(s.at) === d)
                  .map((s) => (
                    <li key={s.key} className="grid grid-cols-[1.2rem_3rem_1fr]">
                      <span>□</span>
                      <b>{clock(s.at)}</b>
                      <span>
                        {s.name}
                        {s.key === "launch_1" && every
                          ? `, then every ${String(Math.round(every * 2) / 2)} min`
                          : ""}
                        {s.note ? ` (${units.say(s.note)})` : ""}
                      </span>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </div>
        <div>
          <Later later={told.result.later} />
          <h2 className="text-[13pt] font-bold">To buy or have</h2>
          <ul className="mb-2">
            {told.lists.shopping.map((item) => (
              <li key={item.name}>
                □ {amount(item.grams, units.mass)} {item.name}
              </li>
            ))}
          </ul>
          {told.lists.prep.length ? (
            <>
              <h2 className="text-[13pt] font-bold">To have ready</h2>
              <ul className="mb-2">
                {told.lists.prep.map((text) => (
                  <li key={text}>□ {units.say(text)}</li>
                ))}
              </ul>
            </>
          ) : null}
          <p>
            {told.toppings?.cautions.map((c) => units.say(c)).join(" ")} Stone, steel and rack burn for an
            hour after. Follow the appliance&rsquo;s manual and local codes.
          </p>
        </div>
      </div>
    </div>
  );
}

/** Small masses keep their tenths. */
export function amount(grams: number, mass: (g: number) => string): string {
  return grams < 30 && mass(100).endsWith(" g") ? `${grams.toFixed(1)} g` : mass(grams);
}
