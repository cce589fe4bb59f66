import { Button } from "../../ui/Button";
import type { Schemas } from "../../api/client";
import { NumberInput } from "../../ui/NumberInput";
import { isNumber } from "../../ui/numbers";
import { dateOf } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Kitchen } from "./things";

/** How the hearth was set while the log was made; the dial in the cook's own unit. */
export interface LogSetting {
  dial: string;
  level: string;
  surface: number | null;
}

export function HowItWasSet({
  kitchen,
  setting,
  onSetting,
}: {
  kitchen: Kitchen;
  setting: LogSetting;
  onSetting: (to: Partial<LogSetting>) => void;
}) {
  const { dial, level, surface } = setting;
  const unit = useUnits().as("°C").unit;
  return (
    <div className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
      dial at
      <NumberInput
        label={`dial during the log, ${unit}`}
        className="field w-14 px-1 text-right"
        text={dial}
        said={!isNumber(dial)}
        onText={(typed) => {
          onSetting({ dial: typed });
        }}
      />
      {unit}, level
      <NumberInput
        label="level during the log"
        className="field w-9 px-1 text-right"
        text={level}
        said={!isNumber(level)}
        onText={(typed) => {
          onSetting({ level: typed });
        }}
      />
      with
      <select
        aria-label="what was in the oven"
        className="field px-1"
        value={String(surface)}
        onChange={(e) => {
          onSetting({ surface: e.target.value === "null" ? null : Number(e.target.value) });
        }}
      >
        {kitchen.surfaces.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
        <option value="null">nothing in it</option>
      </select>
    </div>
  );
}

/** What the log says of the hearth, beside its curve. */
export function LogAnswer({
  told,
  busy,
  onUse,
}: {
  told: Schemas["CalibrateResult"];
  busy: boolean;
  onUse: () => void;
}) {
  const units = useUnits();
  return (
    <div className="grid gap-2">
      <p
        className={`font-display text-[26px] leading-tight font-bold text-balance ${told.trust === "good" ? "" : "text-brick"}`}
      >
        {units.say(told.say)}
      </p>
      <p className="text-ash">
        heating {told.power_kw.value.toFixed(1)} kW ± {told.power_kw.plus_minus.toFixed(1)}; losses{" "}
        {told.loss_factor.value.toFixed(2)} and air to deck {told.deck_factor.value.toFixed(2)} times the
        usual; off by {units.tempDifference(told.residual_k)} on average over {told.readings} readings
        {told.dropped > 0 ? `, ${String(told.dropped)} left out` : ""}
      </p>
      {told.trust === "contradictory" ? null : (
        <Button
          look="press"
          className="justify-self-start"
          disabled={busy}
          onClick={() => {
            onUse();
          }}
        >
          Use it
        </Button>
      )}
    </div>
  );
}

/** The calibrations in use, the newest first; it can be rolled back. */
export function InUse({
  made,
  busy,
  onRollBack,
}: {
  made: readonly Schemas["CalibrationOut"][];
  busy: boolean;
  onRollBack: (id: number) => void;
}) {
  const units = useUnits();
  return (
    <ul aria-label="Calibrations in use" className="grid gap-1 text-[13px]">
      {made.map((c, i) => (
        <li key={c.id}>
          <span className="text-ash">{dateOf(c.made_at)}</span> {units.say(c.say)}{" "}
          {i === 0 ? (
            <Button
              look="link"
              className="font-semibold text-air"
              disabled={busy}
              onClick={() => {
                onRollBack(c.id);
              }}
            >
              roll back
            </Button>
          ) : null}
        </li>
      ))}
    </ul>
  );
}

/** What to do for a log, and what is in use meanwhile. */
export function HowALogIsMade({ said }: { said: string }) {
  const units = useUnits();
  return (
    <div className="grid gap-4">
      <p className="font-display text-[26px] leading-tight font-bold text-balance">
        {said ? units.say(said) : "Nobody has measured this oven yet: Mattone takes its dial at its word."}
      </p>
      <ol className="grid max-w-2xl gap-2.5 text-[17px]">
        <li>
          <b>Begin cold</b>, with the steel or stone in it on the level you bake on.
        </li>
        <li>
          <b>Set the dial</b> to what you bake at. Every few minutes write down the time and what the deck
          reads, or let a wireless thermometer write it; a probe in the air tells the dial best.
        </li>
        <li>
          <b>Go on for an hour</b>: the flat end tells the dial, the way up tells the power. Open the door as
          little as you can.
        </li>
        <li>
          <b>Bring the log here</b>: what it says is drawn first, and counts only when you put it to use.
        </li>
      </ol>
      <p className="text-[13px] text-brick">
        Vents free, kitchen aired: a long preheat smokes. The oven&apos;s manual comes first.
      </p>
    </div>
  );
}
