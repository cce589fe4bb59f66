import type { Reference } from "../../ui/crust";
import { Figure } from "../../ui/Figure";
import { Strip } from "../../ui/Strip";
import { TempFigure } from "../../ui/TempFigure";
import { useUnits } from "../../ui/units";
import { DeckReading, Stepper } from "./Corner";
import { flagsOf } from "./flags";
import { Handlings, handlingsOf } from "./Handlings";
import { PinBoard } from "./PinBoard";
import { PinButtons } from "./PinButtons";
import type { Laid } from "./usePlanDesk";

function Pins({ desk }: { desk: Laid }) {
  const { pins } = desk;
  return (
    <PinButtons
      count={pins.pins.length}
      busy={desk.stale}
      comparing={pins.comparing}
      onPin={pins.pin}
      onCompare={pins.compare}
    />
  );
}

/** Pinned variants beside each other. */
export function Pinned({ desk, reference }: { desk: Laid; reference: Reference }) {
  const { draft, pins } = desk;
  return (
    <section aria-label="Pinned variants" className="min-h-0 bg-panel">
      <p className="flex gap-1.5 px-4 pt-2">
        <Pins desk={desk} />
      </p>
      <PinBoard
        pins={pins.pins}
        reference={reference}
        onUnpin={pins.unpin}
        onTake={(pin) => {
          desk.moment.to(null);
          desk.setDraft({ ...pin.draft, controls: pin.controls, name: draft.name });
        }}
      />
    </section>
  );
}

/** The whole bake over time, with everything that is set drawn on it. */
export function PlanStrip({ desk, reference, launch }: { desk: Laid; reference: Reference; launch: string }) {
  const { played, controls, moment } = desk;
  const told = played.result.result;
  return (
    <section aria-label="The strip" className="min-h-0 bg-panel" hidden={desk.pins.comparing}>
      <Strip
        data={{
          traces: desk.traces,
          moments: told.moments,
          preheat: told.preheat,
          preheatMin: controls.preheat_min,
          lookS: told.look_from_s,
          doneS: told.likely_done_s,
          lateS: told.not_later_s,
          launchClock: launch,
          hasDeck: played.ask.surface != null,
        }}
        reference={reference}
        handleS={moment.at}
        flags={flagsOf(controls, moment.end, desk.control)}
        onScrub={moment.to}
        onPreheat={desk.preheat}
        onDrag={desk.setDragging}
        corner={<Corner desk={desk} />}
      />
    </section>
  );
}

/** Handlings that stand open: minutes on the hob, and cheese that goes on later. */
function OftenDone({ desk }: { desk: Laid }) {
  const { played, controls } = desk;
  const cheese = handlingsOf(controls, played.ask, played.result, desk.control).find(
    (one) => one.key === "cheese_s",
  );
  return (
    <>
      {controls.hob_s != null ? (
        <Figure
          label="Minutes on the hob first"
          value={controls.hob_s / 60}
          digits={1}
          step={0.5}
          wide="w-10 font-bold"
          unit="min on the hob first"
          bounds={[0.2, 8]}
          onChange={(minutes) => {
            desk.control({ hob_s: Math.round(minutes * 60) });
          }}
        />
      ) : null}
      {cheese ? (
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={cheese.on} onChange={cheese.toggle} />
          cheese later
        </label>
      ) : null}
    </>
  );
}

/** What is set by figure: the dial, the handlings, a reading of the deck. */
function Corner({ desk }: { desk: Laid }) {
  const units = useUnits();
  const { draft, played, controls } = desk;
  return (
    <div className="grid gap-1.5">
      <span>
        {played.result.fire ? "launch at" : "dial at"}{" "}
        <TempFigure
          label={played.result.fire ? "Launch temperature" : "The dial"}
          value={controls.setpoint_c}
          digits={0}
          wide="w-12 font-bold"
          bounds={desk.dialBounds}
          onChange={desk.setDial}
        />
        <Stepper
          label={played.result.fire ? "launch temperature" : "dial"}
          onStep={(steps) => {
            // Whole tens of Fahrenheit, fives of Celsius: what dials are marked in.
            const by = units.us("temperature") ? 10 : 5;
            const { shown, kept } = units.as("°C");
            desk.setDial(kept(Math.round(shown(controls.setpoint_c)) + steps * by));
          }}
        />
      </span>
      <span className="flex flex-wrap gap-1.5">
        <Handlings
          handlings={handlingsOf(controls, played.ask, played.result, desk.control)}
          cheese={controls.cheese}
          onCheese={(cheese) => {
            desk.control({ cheese });
          }}
        />
        <Pins desk={desk} />
        <OftenDone desk={desk} />
      </span>
      {played.ask.surface == null ? null : (
        <DeckReading
          value={draft.sentence.deck_reading_c ?? null}
          onChange={(deck_reading_c) => {
            desk.change({ deck_reading_c }, false);
          }}
        />
      )}
    </div>
  );
}
