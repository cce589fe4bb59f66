import { Button } from "../../ui/Button";
import { clock, day, minuteOf } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { isBound, pizzaOf } from "../../ui/supperSteps";
import type { PlacedStep, Result } from "./types";

/** Launches after the first say nothing new: the row of them is one line. */
export function lines(result: Result): PlacedStep[] {
  return result.steps.filter((s) => pizzaOf(s.key) < 2);
}

/** How the pizzas after the first come, ", then every 12 min"; "about" where the deck makes them come unevenly. */
export function rowSaid(result: Result): string {
  const tables = result.steps.filter((s) => s.key.startsWith("table_")).map((s) => minuteOf(s.at));
  const [first, second] = tables.sort((a, b) => a - b);
  const last = tables.at(-1);
  if (first === undefined || second === undefined || last === undefined) return "";
  const every = (last - first) / (tables.length - 1);
  const about = Math.abs(second - first - every) > 0.75 ? "about " : "";
  return `, then ${about}every ${String(Math.round(every * 2) / 2)} min`;
}

/** The steps in order, with their slack; each can be marked done, pinned or let go. */
export function Agenda({
  result,
  nowMin,
  busy,
  waiting,
  onDone,
  onPin,
  onFree,
}: {
  result: Result;
  nowMin: number;
  busy: boolean;
  /** Steps that were marked done and wait on this device for the server. */
  waiting: ReadonlySet<string>;
  onDone: (step: PlacedStep) => void;
  onPin: (step: PlacedStep) => void;
  onFree: (step: PlacedStep) => void;
}) {
  const units = useUnits();
  const shown = lines(result);
  const pizzas = result.steps.filter((s) => s.key.startsWith("table_")).length;
  const next = shown.find((s) => !s.done && minuteOf(s.ends) > nowMin - 30);
  return (
    <ol className="grid" aria-label="Steps">
      {shown.map((step, i) => {
        const newDay = i === 0 || day(step.at) !== day(shown[i - 1]?.at ?? "");
        const bound = isBound(step.key);
        return (
          <li
            key={step.key}
            data-line={step.key}
            className={`grid grid-cols-[3.2rem_3.2rem_1fr] items-baseline gap-x-2 max-md:grid-cols-[2.1rem_2.9rem_1fr] max-md:gap-x-1.5 border-t border-line py-1 ${step.key === next?.key ? "bg-brick-wash" : ""}`}
          >
            <span className="font-semibold text-ash">{newDay ? day(step.at) : ""}</span>
            <span className={`text-[16px] font-bold ${step.done ? "text-ash line-through" : ""}`}>
              {clock(step.at)}
            </span>
            <div className="min-w-0">
              <div className="flex flex-wrap items-baseline gap-x-3">
                <span className={`text-[15px] font-semibold ${step.done ? "text-ash" : ""}`}>
                  {step.key === "table_1" && pizzas > 1 ? "First on the table" : step.name}
                  {step.key === "launch_1" ? rowSaid(result) : ""}
                  {step.key === "table_1" && pizzas > 1 ? `, the last ${lastOf(result)}` : ""}
                </span>
                {step.at_night ? (
                  <span className="text-[13px] font-semibold text-brick">at night</span>
                ) : null}
                <span className="ml-auto flex gap-2.5 text-[13px] text-air">
                  {step.done || step.fixed ? (
                    <Button
                      look="link"
                      className="py-1"
                      aria-label={`${step.done ? "Not done after all" : "Let it move"}: ${step.name}`}
                      onClick={() => {
                        onFree(step);
                      }}
                    >
                      {step.done ? "not done" : "let it move"}
                    </Button>
                  ) : !bound ? (
                    <Button
                      look="link"
                      className="py-1 max-md:px-2"
                      aria-label={`Pin ${step.name}`}
                      onClick={() => {
                        onPin(step);
                      }}
                    >
                      pin
                    </Button>
                  ) : null}
                  {!step.done && waiting.has(step.key) ? (
                    <span className="px-1 py-1 text-ash">done; not told yet</span>
                  ) : !step.done && !bound ? (
                    <Button
                      look="link"
                      className="px-1 py-1 font-semibold max-md:min-h-11 max-md:px-4 max-md:no-underline max-md:shadow-[inset_0_0_0_1.5px_var(--air)]"
                      aria-label={`Done: ${step.name}`}
                      disabled={busy}
                      onClick={() => {
                        onDone(step);
                      }}
                    >
                      done
                    </Button>
                  ) : null}
                </span>
              </div>
              <p className="text-[13px] leading-snug text-ash">
                {step.flexible
                  ? `any time ${clock(step.earliest)} to ${day(step.latest) === day(step.earliest) ? "" : `${day(step.latest)} `}${clock(step.latest)}${step.note ? "; " : ""}`
                  : step.fixed && !step.done
                    ? `pinned${step.note ? "; " : ""}`
                    : ""}
                {units.say(step.note)}
              </p>
            </div>
          </li>
        );
      })}
    </ol>
  );
}

function lastOf(result: Result): string {
  const tables = result.steps.filter((s) => s.key.startsWith("table_"));
  return clock(
    tables
      .map((s) => s.at)
      .sort()
      .at(-1) ?? result.serve_at,
  );
}
