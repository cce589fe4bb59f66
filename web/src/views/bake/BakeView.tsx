import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Baking } from "./Baking";
import { Heating } from "./Heating";
import { Pulled } from "./Pulled";
import { last, said } from "./stages";
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
  const { bake, happened, stage, live, tell, waiting } = useBake(id);
  const reference = useQuery(server.reference);
  const now = useNow(0.5) * 60_000;
  if (bake.isPending || !reference.data)
    return <main className="grid h-full place-items-center text-ash waiting">the bake</main>;
  if (!bake.data) return <Gone text={bake.error.message} />;
  const undoable = last(happened);
  const told = live.data?.live;
  const title =
    stage.endedMs !== null
      ? "Done"
      : stage.pulledMs !== null
        ? "Resting"
        : stage.launchedMs !== null
          ? "Baking"
          : `Heating the ${bake.data.names.surface ?? bake.data.names.hearth}`;
  return (
    <main
      className="mx-auto max-w-[1080px] p-4 pb-8 text-[16px]"
      data-testid="bake"
      data-stage={bake.data.stage}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1 className="text-[17px] font-bold text-ash">{title}</h1>
        <span className="text-ash">{bake.data.name}</span>
      </div>
      {live.isError ? (
        <p role="status" className="mt-1 text-brick">
          {told ? "No answer just now: this is the last one. " : "No answer yet. "}
          {live.error.message} What you tap is kept.
        </p>
      ) : null}
      {stage.endedMs !== null ? (
        <Pulled pulledMs={stage.pulledMs} now={now} tell={null} />
      ) : stage.pulledMs !== null ? (
        <Pulled pulledMs={stage.pulledMs} now={now} tell={tell} />
      ) : stage.launchedMs !== null ? (
        <Baking
          live={told?.launched ? told : undefined}
          launchedMs={stage.launchedMs}
          happened={happened}
          reference={reference.data}
          now={now}
          tell={tell}
        />
      ) : (
        <Heating
          live={told && !told.launched ? told : undefined}
          heatOnMs={Date.parse(bake.data.heat_on_at)}
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
            End without baking
          </Button>
        ) : null}
        {waiting > 0 ? <span className="text-ash">kept on this device: {waiting}</span> : null}
      </div>
    </main>
  );
}
