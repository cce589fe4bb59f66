import { clock, day, minuteOf, dayFrom } from "../../ui/time";
import type { ReactNode } from "react";
import { ClockField } from "../../ui/ClockField";
import { TempFigure } from "../../ui/TempFigure";
import { useUnits } from "../../ui/units";
import type { Result, Words } from "./types";

/** When somebody is there, how many hands, how warm it is. */
export function Conditions({
  words,
  result,
  problem,
  onWords,
}: {
  words: Words;
  result: Result | null;
  problem: { path: string; text: string } | null;
  onWords: (to: Partial<Words>) => void;
}) {
  const units = useUnits();
  const wrong = (path: string) => (problem?.path === path ? problem.text : undefined);
  const absences = words.absences ?? [];
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
      {absences.map((away, i) => (
        <div key={i} className="grid gap-0.5 border-t border-line pt-1">
          <div className="flex flex-wrap items-baseline gap-1.5">
            away
            <input
              type="datetime-local"
              aria-label={`Away from, ${String(i + 1)}`}
              className="figure !text-left"
              value={away.from_at.slice(0, 16)}
              onChange={(e) => {
                if (e.target.value)
                  onWords({
                    absences: absences.map((a, j) => (j === i ? { ...a, from_at: e.target.value } : a)),
                  });
              }}
            />
            to
            <input
              type="datetime-local"
              aria-label={`Away until, ${String(i + 1)}`}
              className="figure !text-left"
              value={away.to_at.slice(0, 16)}
              onChange={(e) => {
                if (e.target.value)
                  onWords({
                    absences: absences.map((a, j) => (j === i ? { ...a, to_at: e.target.value } : a)),
                  });
              }}
            />
            <button
              type="button"
              aria-label={`There after all, ${String(i + 1)}`}
              className="px-1 text-ash hover:text-brick"
              onClick={() => {
                onWords({ absences: absences.filter((_, j) => j !== i) });
              }}
            >
              ×
            </button>
          </div>
          {problem?.path.startsWith(`absences.${String(i)}`) ? (
            <p role="alert" className="text-brick">
              {problem.text}
            </p>
          ) : null}
        </div>
      ))}
      <button
        type="button"
        className="justify-self-start text-air underline underline-offset-2"
        disabled={absences.length >= 20}
        onClick={() => {
          const base = result ? result.serve_at : words.serve_at;
          const dayOf = dayFrom(base, -1);
          onWords({ absences: [...absences, { from_at: `${dayOf}T08:30`, to_at: `${dayOf}T17:00` }] });
        }}
      >
        I am away for a while
      </button>
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
