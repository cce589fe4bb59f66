import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { Refusal } from "../../api/client";
import { server } from "../../api/queries";
import { SupperSaid } from "../../supper/SupperLine";
import { Button } from "../../ui/Button";
import { evenings } from "../../ui/clock";
import { BakeLog } from "./BakeLog";
import { Baking } from "./Baking";
import { CallSettings, Slept, useSettings } from "./Calls";
import { dueOf } from "../../ui/bakeDue";
import { Heating } from "./Heating";
import { Pulled } from "./Pulled";
import { answerFor, last, said, stillComing } from "../../ui/bakeStages";
import { useAlarms } from "./useAlarms";
import { useAwake } from "./useAwake";
import type { Tell } from "../../ui/bakeTypes";
import { useNow } from "../../ui/useNow";
import { useBake } from "./useBake";

/** A bake at hand: one next thing, its clock, what is seen, and what to do about it. */
export function BakeView() {
  const { bakeId } = useParams();
  const id = Number(bakeId);
  return Number.isInteger(id) && id > 0 ? (
    <AtHand key={id} id={id} />
  ) : (
    <Gone text="There is no such bake." />
  );
}

function Gone({ text }: { text: string }) {
  return (
    <main className="p-6 text-[16px]">
      <p role="alert">{text}</p>
      <Link className="text-air underline underline-offset-2" to="/bake">
        Choose a plan to bake by
      </Link>
    </main>
  );
}

function AtHand({ id }: { id: number }) {
  const { bake, happened, stage, live, answer, tell: tellIt, waiting } = useBake(id);
  const reference = useQuery(server.reference);
  const now = useNow(0.5) * 60_000;
  const [settings, change] = useSettings();
  const heatOnMs = bake.data ? Date.parse(bake.data.heat_on_at) : now;
  const found = answerFor(answer?.live, stage);
  const told = found && { ...found, coming: stillComing(found.planned, happened, stage.pizza) };
  const due = bake.data ? dueOf(stage, told, heatOnMs, now) : null;
  const alarms = useAlarms(due, now, settings);
  // Whoever does something has seen what called.
  const tell: Tell = (...what) => {
    alarms.seen();
    tellIt(...what);
  };
  useAwake(bake.data !== undefined && stage.endedMs === null);
  if (!bake.data && bake.isError) return <Gone text={bake.error.message} />;
  if (!bake.data || !reference.data)
    return <main className="grid h-full place-items-center text-ash waiting">the bake</main>;
  const problem = live.error ?? bake.error;
  // That nobody answers is said here already; a refusal says what is wrong.
  const refused = problem instanceof Refusal && problem.status !== 0 ? problem.message : "";
  const undoable = last(happened);
  const row = stage.count > 1 ? `, ${String(stage.pizza)} of ${String(stage.count)}` : "";
  const title =
    stage.endedMs !== null
      ? "Done"
      : stage.pulledMs !== null
        ? `Resting${row}`
        : stage.launchedMs !== null
          ? `Baking${row}`
          : stage.pizza > 1
            ? `The next one${row}`
            : `Heating the ${bake.data.names.surface ?? bake.data.names.hearth}${row}`;
  return (
    <main
      className="mx-auto max-w-[1080px] p-4 pb-8 text-[16px]"
      data-testid="bake"
      data-stage={
        stage.endedMs !== null
          ? "ended"
          : stage.pulledMs !== null
            ? "pulled"
            : stage.launchedMs !== null
              ? "baking"
              : "heating"
      }
      data-pizza={stage.pizza}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1 className="text-[17px] font-bold text-ash">{title}</h1>
        <span className="text-ash">
          {bake.data.name}
          {evenings > 1 ? `, virtual, ${String(evenings)} times as fast` : ""}
        </span>
      </div>
      {bake.data.headline ? <SupperSaid headline={bake.data.headline} /> : null}
      {live.isError || bake.isError ? (
        <p role="status" className="mt-1 text-brick">
          {answer ? "No answer just now: the last one stands. " : "No answer yet. "}
          {refused} What you tap is kept.
        </p>
      ) : null}
      {alarms.slept && stage.endedMs === null ? (
        <Slept slept={alarms.slept} nowMs={now} seen={alarms.seen} />
      ) : null}
      {stage.endedMs !== null ? (
        <>
          <Pulled pulledMs={stage.pulledMs} now={now} tell={null} />
          <BakeLog happened={happened} count={stage.count} heatOnMs={heatOnMs} reference={reference.data} />
        </>
      ) : stage.pulledMs !== null ? (
        <Pulled pulledMs={stage.pulledMs} now={now} tell={tell} />
      ) : stage.launchedMs !== null ? (
        <Baking
          live={told ?? undefined}
          launchedMs={stage.launchedMs}
          happened={happened}
          pizza={stage.pizza}
          reference={reference.data}
          now={now}
          tell={tell}
        />
      ) : (
        <Heating
          live={told ?? undefined}
          heatOnMs={heatOnMs}
          stage={stage}
          due={due}
          happened={happened}
          now={now}
          tell={tell}
        />
      )}
      <div className="mt-4 flex flex-wrap items-center gap-3">
        {undoable && stage.endedMs === null ? (
          <Button
            className="min-h-11"
            onClick={() => {
              tell("bake.undone", { event: undoable.id });
            }}
          >
            Take back: {said(undoable)}
          </Button>
        ) : null}
        {stage.endedMs === null && stage.launchedMs === null ? (
          <Button
            className="min-h-11"
            onClick={() => {
              tell("bake.ended");
            }}
          >
            {stage.pizza > 1 ? "No more: end this bake" : "End without baking"}
          </Button>
        ) : null}
        {waiting > 0 ? <span className="text-ash">kept on this device: {waiting}</span> : null}
      </div>
      {stage.endedMs === null ? <CallSettings settings={settings} change={change} /> : null}
    </main>
  );
}
