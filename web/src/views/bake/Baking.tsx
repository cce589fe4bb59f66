import { useShortcut } from "../../app/useShortcut";
import { Button } from "../../ui/Button";
import { Caution } from "../../ui/Caution";
import type { Reference } from "../../ui/crust";
import { nowMs } from "../../ui/clock";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { CourseStrip } from "./CourseStrip";
import { nextOf, when } from "../../ui/bakeStages";
import { Swatches } from "./Swatches";
import type { Happened, Live, Tell, ToDo } from "../../ui/bakeTypes";

const SIGNS = [
  ["one_side_darker", "one side darker"],
  ["centre_wet", "centre still wet"],
  ["smoke", "smoke"],
  ["stuck", "stuck"],
  ["blister", "blister"],
  ["rising_too_fast", "rising too fast"],
] as const;
const MOST_ACTIONS = 4;

/** From launch to pull: the clock, the one next thing, what is seen, and what that calls for. */
export function Baking({
  live,
  launchedMs,
  happened,
  pizza,
  reference,
  now,
  tell,
}: {
  live: Live | undefined;
  launchedMs: number;
  happened: readonly Happened[];
  pizza: number;
  reference: Reference;
  now: number;
  tell: Tell;
}) {
  const units = useUnits();
  const nowS = Math.max(0, (now - launchedMs) / 1000);
  const next = live ? nextOf(live, nowS) : null;
  const pulled = () => {
    tell("bake.pulled");
  };
  const acknowledge = () => {
    if (next?.coming) tell("bake.done", given(next.coming.gives));
    else if (next?.text === "Pull it") pulled();
  };
  // What is put first is worth doing: the engine offers nothing that a cook could not see.
  const first = live?.actions[0];
  const asked = live?.asks.find((one) => one.gives.do === next?.coming?.do);
  // One main button at a time: the next step, and from the first look on the pull.
  const pullIsMain = !live?.pull || nowS >= live.pull.low;
  const act = (one: ToDo) => () => {
    if (one.key === "pull_now") pulled();
    for (const event of one.gives)
      tell("bake.done", given(event), Math.max(nowMs(), launchedMs + event.at_s * 1000));
  };
  useShortcut([" "], (_, e) => {
    e.preventDefault();
    acknowledge();
  });
  const lit = next?.coming?.do === "top_element_on" || next?.coming?.do === "hob_on";
  return (
    <>
      <div className="grid gap-x-8 md:grid-cols-2">
        <div>
          <p className="font-display text-[clamp(88px,28vw,150px)] leading-[0.95] font-bold tabular-nums">
            {bakeTime(nowS)}
          </p>
          {next ? (
            <p
              className="font-display text-[clamp(26px,8vw,40px)] leading-tight font-bold text-brick"
              data-testid="next"
            >
              {asked ? asked.text : `${next.text} ${when(next.leftS)}`}
            </p>
          ) : (
            <p className="text-[20px] text-ash">The window is being worked out.</p>
          )}
          {next?.coming ? (
            <StepButtons
              asked={asked}
              isMain={!pullIsMain}
              onTime={(gives) => {
                tell("bake.done", given(gives), launchedMs + gives.at_s * 1000);
              }}
              done={acknowledge}
              leaveOut={() => {
                tell("bake.skipped", { do: next.coming?.do });
              }}
            />
          ) : null}
          {lit ? (
            <div className="mt-2">
              <Caution text="Stay with it while it glows; nothing of paper or coated under it." />
            </div>
          ) : null}
          <p className="mt-2 text-[18px] leading-snug">
            {live?.launched
              ? units.say(live.says.slice(0, 2).join(" "))
              : live?.pull
                ? `Look from ${bakeTime(live.pull.low)}, likely ${bakeTime(live.pull.likely)}, latest ${bakeTime(live.pull.high)}: by the plan.`
                : ""}
          </p>
          {(live?.launched ? live.says : []).slice(2).map((text) => (
            <p key={text} className="mt-2 border-l-4 border-brick pl-3 text-[17px]">
              {units.say(text)}
            </p>
          ))}
          {first && first.key !== "go_on" ? (
            <Action one={first} first say={units.say} act={act(first)} />
          ) : null}
        </div>
        <div>
          <h2 className="mt-3 text-[20px] font-bold">What do you see?</h2>
          <Swatches happened={happened} pizza={pizza} reference={reference} now={now} tell={tell} />
          <details className="mt-2">
            <summary className="flex min-h-11 cursor-pointer items-center text-[17px] text-air underline underline-offset-2">
              something else
            </summary>
            <div className="flex flex-wrap gap-2">
              {SIGNS.map(([kind, words]) => (
                <Button
                  key={kind}
                  className="min-h-11"
                  onClick={() => {
                    tell("bake.sign", { kind });
                  }}
                >
                  {words}
                </Button>
              ))}
            </div>
          </details>
        </div>
        <div>
          {live?.course && live.pull ? (
            <CourseStrip course={live.course} pull={live.pull} nowS={nowS} reference={reference} />
          ) : null}
        </div>
        <div>
          {live && live.actions.length > 0 ? (
            <>
              <h2 className="mt-3 text-[20px] font-bold">What it would bring</h2>
              {live.actions
                .filter((one) => one !== first || one.key === "go_on")
                .slice(0, MOST_ACTIONS)
                .map((one) => (
                  <Action key={one.key} one={one} first={one === first} say={units.say} act={act(one)} />
                ))}
            </>
          ) : null}
        </div>
      </div>
      {/* Never out of reach: the one tap that cannot wait. */}
      <Button
        look={pullIsMain ? "press" : "quiet"}
        className="sticky bottom-2 mt-4 min-h-16 w-full text-[22px] shadow-[0_0_0_6px_var(--ground)]"
        onClick={pulled}
      >
        I pulled it
      </Button>
    </>
  );
}

type Asked = Live["asks"][number];

/** What is next: that it was done, now or at its time, or that it is left out. */
function StepButtons({
  asked,
  isMain,
  onTime,
  done,
  leaveOut,
}: {
  /** The question about it, where it is overdue and nobody said. */
  asked: Asked | undefined;
  isMain: boolean;
  onTime: (gives: Asked["gives"]) => void;
  done: () => void;
  leaveOut: () => void;
}) {
  return (
    <div className="mt-2 flex gap-2">
      {asked ? (
        <Button
          look={isMain ? "press" : "quiet"}
          className="min-h-14 flex-1 text-[19px]"
          onClick={() => {
            onTime(asked.gives);
          }}
        >
          Yes, on time
        </Button>
      ) : null}
      <Button
        look={isMain && !asked ? "press" : "quiet"}
        className="min-h-14 flex-1 text-[19px]"
        onClick={done}
      >
        {asked ? "Just now" : "Done"}
      </Button>
      <Button className="min-h-14 px-4" onClick={leaveOut}>
        Leave it out
      </Button>
    </div>
  );
}

/** A control as it is told. */
function given(event: ToDo["gives"][number]): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries({
      do: event.do,
      level: event.level,
      setpoint_c: event.setpoint_c,
      power_kw: event.power_kw,
    }).filter(([, value]) => value != null),
  );
}

function Action({
  one,
  first,
  say,
  act,
}: {
  one: ToDo;
  first: boolean;
  say: (text: string) => string;
  act: () => void;
}) {
  const inside = (
    <>
      <span className="block text-[18px] leading-tight font-bold">{say(one.label)}</span>
      <span className="block text-[15px] leading-snug">{say(one.effect)}</span>
    </>
  );
  const look = `mt-2 block min-h-14 w-full border-l-[6px] bg-panel px-3 py-2 text-left ${first ? "border-brick" : "border-line"}`;
  return one.key === "go_on" ? (
    <div className={look}>{inside}</div>
  ) : (
    <button type="button" className={look} onClick={act} data-testid={`do-${one.key}`}>
      {inside}
    </button>
  );
}
