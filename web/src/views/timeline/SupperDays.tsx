import { minuteOf } from "../../ui/time";
import type { DoughReference } from "../../ui/dough";
import { Later } from "./Later";
import { Agenda } from "./Agenda";
import { Conditions } from "./Conditions";
import { HandlingPanel } from "./HandlingPanel";
import { Ribbon } from "./Ribbon";
import { OvenSheet } from "./OvenSheet";
import { ListsPanel, Side } from "./Side";
import { SupperSheet } from "./SupperSheet";
import { ToppingsPanel } from "./ToppingsPanel";
import type { Told } from "./types";
import type { Desk } from "./useSupperDesk";

/** A supper of more hours than this has days before it. */
const EVENING_H = 9;

/** Hours from the first step to serving. */
function spanHours(told: Told): number {
  return (minuteOf(told.result.serve_at) - Math.min(...told.result.steps.map((s) => minuteOf(s.at)))) / 60;
}

/** The days laid out: ribbons, steps, what they depend on; and the sheet for the wall. */
export function SupperDays({ desk, shown, things }: { desk: Desk; shown: Told; things: DoughReference }) {
  const { words, steps, refusal } = desk;
  const zooms = spanHours(shown) > EVENING_H ? (["days", "evening"] as const) : (["evening"] as const);
  return (
    <section className="on-paper grid gap-2.5">
      <div className="grid min-w-0 gap-2.5 max-md:order-2 print:hidden">
        {zooms.map((zoom) => (
          <section
            key={zoom}
            aria-label={zoom === "days" ? "The days before" : "The hours around the table"}
            className="min-w-0 bg-panel px-4 py-2"
          >
            <Ribbon
              result={shown.result}
              zone={words.time_zone ?? "UTC"}
              zoom={zoom}
              nowMin={steps.nowMin}
              faded={shown !== desk.told}
              onMove={(step, at) => {
                steps.fix(step.key, at, false);
              }}
              onServe={(at) => {
                desk.say({ serve_at: at });
              }}
              onDrag={desk.setDragging}
            />
          </section>
        ))}
      </div>
      <div className="grid min-w-0 gap-2.5 max-md:order-1 md:grid-cols-[1fr_24rem] print:hidden">
        <section aria-label="The steps" className="min-w-0 bg-panel p-4 pt-2">
          <Agenda
            result={shown.result}
            nowMin={steps.nowMin}
            busy={steps.busy}
            waiting={steps.untold}
            onDone={steps.markDone}
            onPin={(step) => {
              steps.fix(step.key, step.at, false);
            }}
            onFree={(step) => {
              steps.free(step.key);
            }}
          />
          <Later later={shown.result.later} />
        </section>
        <Side
          conditions={
            <Conditions
              words={words}
              result={shown.result}
              twoAtOnce={shown.may_be_together}
              problem={refusal}
              onWords={desk.say}
            />
          }
          toppings={
            <ToppingsPanel
              supper={desk.supper}
              words={words}
              told={shown}
              things={things}
              onWords={desk.say}
            />
          }
          byHand={<HandlingPanel words={words} told={shown} onWords={desk.say} />}
          lists={<ListsPanel told={shown} />}
          oven={
            shown.result.oven ? (
              <OvenSheet told={shown} />
            ) : (
              <p className="text-ash">
                Choose an oven in Plan: its card then stands here, by the clock, for every pizza.
              </p>
            )
          }
        />
      </div>
      <SupperSheet told={shown} title={desk.title} />
    </section>
  );
}
