import { clock, day, minuteOf } from "../../ui/time";
import type { ReactNode } from "react";
import { ClockField } from "../../ui/ClockField";
import { TempFigure } from "../../ui/TempFigure";
import { useUnits } from "../../ui/units";
import { Absences } from "./Absences";
import type { Result, Words } from "./types";

/** When somebody is there, how many hands, how warm it is. */
export function Conditions({
  words,
  result,
  problem,
  twoAtOnce,
  onWords,
}: {
  words: Words;
  /** Whether the oven takes two trays at once. */
  twoAtOnce: boolean;
  result: Result | null;
  problem: { path: string; text: string } | null;
  onWords: (to: Partial<Words>) => void;
}) {
  const units = useUnits();
  const wrong = (path: string) => (problem?.path === path ? problem.text : undefined);
  const temp = (label: string, key: "room_c" | "fridge_c" | "warm_c", low: number, high: number) => (
    <Row name={label}>
      <TempFigure
        label={label}
        value={words[key] ?? 21}
        digits={0}
        wide="w-12"
        problem={wrong(key) ? units.say(wrong(key) ?? "") : undefined}
        bounds={[low, high]}
        onChange={(celsius) => {
          onWords({ [key]: celsius });
        }}
      />
    </Row>
  );
  return (
    <div className="grid content-start gap-1.5">
      <Row name="asleep from">
        <ClockField
          small
          label="Asleep from"
          value={words.sleep_from ?? "23:00"}
          onChange={(time) => {
            onWords({ sleep_from: time });
          }}
        />
        to
        <ClockField
          small
          label="Asleep until"
          value={words.sleep_to ?? "07:00"}
          onChange={(time) => {
            onWords({ sleep_to: time });
          }}
        />
      </Row>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={words.may_wake ?? false}
          onChange={(e) => {
            onWords({ may_wake: e.target.checked });
          }}
        />
        I would get up in the night for it
      </label>
      <Absences
        absences={words.absences ?? []}
        nearTo={result ? result.serve_at : words.serve_at}
        zone={words.time_zone ?? "UTC"}
        problem={problem}
        onAbsences={(absences) => {
          onWords({ absences });
        }}
      />
      <div className="mt-1 grid gap-1.5 border-t border-line pt-2">
        <Row name="hands">
          <select
            aria-label="Pairs of hands"
            className="border-b border-line bg-panel"
            value={words.hands ?? 1}
            onChange={(e) => {
              onWords({ hands: Number(e.target.value) });
            }}
          >
            <option value={1}>one pair</option>
            <option value={2}>two pairs</option>
          </select>
        </Row>
        {twoAtOnce || (words.together ?? 1) > 1 ? (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={(words.together ?? 1) > 1}
              onChange={(e) => {
                onWords({ together: e.target.checked ? 2 : 1 });
              }}
            />
            two trays in the oven at once
          </label>
        ) : null}
        {temp("the room", "room_c", 5, 40)}
        {temp("the fridge", "fridge_c", -2, 20)}
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={words.in_warmth ?? false}
            onChange={(e) => {
              onWords({ in_warmth: e.target.checked });
            }}
          />
          rises in a warm spot instead of the room
        </label>
        {words.in_warmth ? temp("the warm spot", "warm_c", 20, 38) : null}
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={words.cooked_sauce ?? false}
            onChange={(e) => {
              onWords({ cooked_sauce: e.target.checked });
            }}
          />
          the sauce is cooked
        </label>
      </div>
      {result ? (
        <p className="text-[13px] text-ash">
          Times are of {words.time_zone}. From the first step to the last pizza{" "}
          {Math.round(
            (Math.max(...result.steps.map((s) => minuteOf(s.ends)), 0) -
              Math.min(...result.steps.map((s) => minuteOf(s.at)))) /
              60,
          )}{" "}
          h; serving {day(result.serve_at)} {clock(result.serve_at)}.
        </p>
      ) : null}
    </div>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      <span>{name}</span>
      {children}
    </div>
  );
}
