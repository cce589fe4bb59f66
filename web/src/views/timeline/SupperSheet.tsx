import { clock, dayAndClock } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { lines, rowSaid } from "./Agenda";
import { Later } from "./Later";
import { OvenSheet } from "./OvenSheet";
import { dayName } from "./supperWords";
import type { PlacedStep, Result, Told } from "./types";

/** The supper on paper, to be read from a metre: a page of the days, and a page for beside the oven. */
export function SupperSheet({ told, title }: { told: Told; title: string }) {
  const units = useUnits();
  const shown = lines(told.result);
  const days = [...new Set(shown.map((s) => dayName(s.at)))];
  return (
    <div className="hidden leading-snug print:block" aria-label="The sheet">
      <SheetTitle title={title} told={told} />
      <div className="grid grid-cols-[1.9fr_1fr] gap-[6mm]">
        <div>
          {days.map((d) => (
            <section key={d} className="mb-[1.5mm]">
              <h2 className="border-b-2 border-black text-[16pt] font-bold">{d}</h2>
              <ul>
                {shown
                  .filter((s) => dayName(s.at) === d)
                  .map((s) => (
                    <SheetStep key={s.key} step={s} result={told.result} />
                  ))}
              </ul>
            </section>
          ))}
        </div>
        <ToHave told={told} />
      </div>
      <p className="mt-[1mm] border-t border-black pt-[1mm] leading-tight">
        {[...(told.toppings?.cautions ?? []).map((c) => units.say(c)), BURNS].join(" ")}
      </p>
      {told.result.oven ? (
        <section className="break-before-page">
          <SheetTitle title={`${title}: at the oven`} told={told} />
          <OvenSheet told={told} />
          <p className="mt-[2mm]">Follow the appliance&rsquo;s manual and local codes.</p>
        </section>
      ) : null}
    </div>
  );
}

const BURNS =
  "Stone, steel, pan and rack burn for an hour after. Follow the appliance’s manual and local codes; gas and wiring are for a licensed technician.";

function SheetTitle({ title, told }: { title: string; told: Told }) {
  return (
    <header className="mb-[3mm]">
      <h1 className="font-display text-[26pt] leading-tight font-bold">{title}</h1>
      <p className="text-[15pt]">
        First pizza {dayAndClock(told.result.serve_at)}, {told.names.dough ?? told.names.style}
        {told.names.plan ? `, ${told.names.plan}` : ""}
      </p>
    </header>
  );
}

function SheetStep({ step, result }: { step: PlacedStep; result: Result }) {
  const units = useUnits();
  return (
    <li className="grid break-inside-avoid grid-cols-[6mm_17mm_1fr] items-baseline gap-x-[2mm] py-[0.3mm]">
      <span aria-hidden className="text-[16pt]">
        □
      </span>
      <b className="text-[17pt] leading-tight">{clock(step.at)}</b>
      <span>
        <b className="text-[14pt]">
          {step.name}
          {step.key === "launch_1" ? rowSaid(result) : ""}
        </b>
        {step.note ? (
          <span className="block text-[10.5pt] leading-[1.15]">{units.say(step.note)}</span>
        ) : null}
      </span>
    </li>
  );
}

/** The order of what goes on after the bake: nothing is done to it before. */
const LAST = 9;

/** What to have, what is done to each topping and when it goes on, what goes its own way. */
function ToHave({ told }: { told: Told }) {
  const units = useUnits();
  const heading = "border-b-2 border-black text-[16pt] font-bold";
  return (
    <div>
      <h2 className={heading}>To have</h2>
      <ul className="mb-[1.5mm] text-[10pt] leading-[1.15]">
        {told.lists.shopping.map((item) => (
          <li key={item.name}>
            □ <b>{item.grams > 0 ? amount(item.grams, units.mass) : item.household}</b> {item.name}
          </li>
        ))}
      </ul>
      {told.toppings?.lots.length ? (
        <>
          <h2 className={heading}>On each, in order</h2>
          <ol className="mb-[1.5mm] text-[10pt]">
            {[...told.toppings.lots]
              .sort((a, b) => (a.order ?? 0) - (b.order ?? 0))
              .map((lot) => (
                <li key={lot.topping + lot.half} className="leading-tight">
                  □ <b>{amount(lot.each_g, units.mass)}</b> {lot.name}
                  {lot.half === "whole" ? "" : `, ${lot.half} half`}
                  {[lot.treat && lot.order !== LAST ? units.say(lot.treat) : "", lot.when ?? ""]
                    .filter(Boolean)
                    .map((text, i) => `${i ? "; " : ": "}${text}`)
                    .join("")}
                </li>
              ))}
          </ol>
        </>
      ) : null}
      <Later later={told.result.later} />
    </div>
  );
}

/** Small masses keep their tenths. */
export function amount(grams: number, mass: (g: number) => string): string {
  return grams < 30 && mass(100).endsWith(" g") ? `${grams.toFixed(1)} g` : mass(grams);
}
