import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { Button } from "../../ui/Button";
import { hoursSaid } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { useDebounced } from "../../ui/useDebounced";
import { useNow } from "../../ui/useNow";
import { RiseCurve } from "./RiseCurve";
import { stageName } from "./riseScale";
import { SeenRow } from "./SeenRow";
import { containerSaid } from "./containerSaid";
import { doseSaid } from "./doseSaid";
import { pieceSaid } from "./PiecesPanel";
import { wayOf } from "./PieceRow";
import { riseOf, stepsOf, withSteps } from "./wayShown";
import {
  asked,
  awaited,
  clockAt,
  type Batch,
  type DoughInput,
  type DoughReference,
  type Kitchen,
  type RiseStep,
} from "./types";
import type { Desk } from "./useDoughDesk";

const HOUR_MS = 3_600_000;
/** As many looks as a rise is steered by. */
const MOST_LOOKS = 20;

/** How far the dough has risen: windows in words, the curve, doses, and what the cook saw. */
export function RiseTab({
  desk,
  told,
  things,
  kitchen,
}: {
  desk: Desk;
  told: Batch;
  things: DoughReference;
  kitchen: Kitchen;
}) {
  const { draft, batch, saved } = desk;
  const units = useUnits();
  const [chosen, setShown] = useState<number | null>(null);
  const shown = told.ways.some((w) => w.piece === chosen) ? chosen : null;
  const rise = riseOf(told, shown);
  const nowMin = useNow(30);
  const [dosed, setDosed] = useState<{ was: DoughInput; now: DoughInput } | null>(null);
  const dose = async () => {
    const was = draft.dough;
    const answered = await batch.ask("solve", { dough: was, solve: "yeast" });
    setDosed(answered ? { was, now: answered.dough } : null);
  };
  const mixedAt = draft.mixedAt ? new Date(draft.mixedAt) : null;
  // Not mixed yet, but planned for a supper: the curve goes by that clock.
  const plannedAt = saved?.planned_at ? new Date(saved.planned_at) : null;
  const clockFrom = mixedAt ?? plannedAt;
  const nowH = mixedAt ? nowMin / 60 - mixedAt.getTime() / HOUR_MS : null;
  return (
    <>
      <WayTabs told={told} dough={draft.dough} ways={told.offered_ways} shown={shown} onShow={setShown} />
      <Windows steps={stepsOf(draft.dough, shown)} windows={rise.windows} clockFrom={clockFrom} />
      <RiseCurve
        told={{ ...told, rise }}
        steps={stepsOf(draft.dough, shown)}
        things={things}
        mixedAt={clockFrom}
        nowH={nowH}
        onDrag={desk.setDragging}
        onSteps={(steps) => {
          desk.rework(withSteps(draft.dough, shown, steps));
        }}
      />
      {rise.doubt ? <p className="font-semibold text-brick">{units.say(rise.doubt)}</p> : null}
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <p className={rise.good ? "" : "font-semibold text-brick"}>
          {rise.say}{" "}
          <span className="font-normal text-ash">
            Times ±{Math.round((Math.exp(rise.spread) - 1) * 100)} %. Until it is divided it wants a container
            of {units.volume(told.container_l)}
            {containerSaid(told.container_l, kitchen.tools)}.
          </span>
        </p>
        <Button className="ml-auto" disabled={shown !== null} onClick={() => void dose()}>
          Adjust the yeast to these hours
        </Button>
        <Button
          disabled={shown !== null}
          onClick={() => void batch.ask("solve", { dough: draft.dough, solve: "last" })}
        >
          Adjust the last hours to this yeast
        </Button>
      </div>
      {rise.good || shown !== null ? null : (
        <DoseOffer dough={draft.dough} things={things} onTake={() => void dose()} />
      )}
      {dosed && JSON.stringify(dosed.now.formula) === JSON.stringify(draft.dough.formula) ? (
        <p role="status" data-testid="dosed">
          {doseSaid(dosed.was, dosed.now, things.ingredients) || "The yeast was right already"}.{" "}
          <Button
            look="link"
            className="text-air"
            onClick={() => {
              desk.rework(dosed.was);
            }}
          >
            Undo
          </Button>
        </p>
      ) : null}
      <Looks desk={desk} told={told} mixedAt={mixedAt} plannedAt={plannedAt} nowH={nowH} />
    </>
  );
}

/** The yeast that would suit these hours, against what the dough has: taken only when the cook says so. */
function DoseOffer({
  dough,
  things,
  onTake,
}: {
  dough: DoughInput;
  things: DoughReference;
  onTake: () => void;
}) {
  // Not while its hours are still being dragged.
  const key = JSON.stringify(dough);
  const settled = useDebounced(dough, key, 400);
  const body = { dough: asked(settled), change: null, solve: "yeast" as const };
  const offer = useQuery({
    queryKey: ["dose", JSON.stringify(body)],
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => answer(client.POST("/api/dough/batch", { body, signal })),
  });
  const change = offer.data ? doseSaid(dough, offer.data.dough, things.ingredients) : "";
  if (!change || JSON.stringify(settled) !== key || !offer.data?.rise.good) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-x-3" data-testid="dose-offer">
      <span>To be ripe at the end of these hours: {change}.</span>
      <Button onClick={onTake}>Change it</Button>
    </p>
  );
}

/** When each stage worth waiting for is ready, by the clock where there is one. */
function Windows({
  steps,
  windows,
  clockFrom,
}: {
  steps: readonly RiseStep[];
  windows: Batch["rise"]["windows"];
  clockFrom: Date | null;
}) {
  const total = steps.reduce((sum, s) => sum + s.hours, 0);
  const at = (hours: number) =>
    clockFrom ? clockAt(new Date(clockFrom.getTime() + hours * HOUR_MS), total > 20) : hoursSaid(hours);
  return (
    <div className="text-[15px]">
      {awaited(windows).map((w) => (
        <p key={w.stage} data-window={w.stage}>
          <span className="font-semibold">{stageName(w.stage)}</span>{" "}
          {w.ready_h != null ? (
            <>
              ready from <span className="font-bold text-air">{at(w.ready_h)}</span>
              {w.ready != null ? `, at ×${w.ready.toFixed(1)}` : ""}
            </>
          ) : (
            "not ready in these hours"
          )}
          {w.best_h != null ? (
            <>
              , best <span className="font-semibold">{at(w.best_h)}</span>
            </>
          ) : null}
          {w === windows.at(-1) && w.too_far_h != null ? `, too far ${at(w.too_far_h)}` : ""}
          {clockFrom ? "" : " after mixing"}
        </p>
      ))}
    </div>
  );
}

/** Whose rise is shown, where pieces go ways of their own after the bulk. */
function WayTabs({
  told,
  dough,
  ways,
  shown,
  onShow,
}: {
  told: Batch;
  dough: DoughInput;
  ways: Batch["offered_ways"];
  shown: number | null;
  onShow: (piece: number | null) => void;
}) {
  const units = useUnits();
  if (!told.ways.length) return null;
  const named = told.ways.flatMap((w) => {
    const piece = dough.formula.pieces[w.piece];
    if (!piece) return [];
    const when = wayOf(piece, ways)?.name ?? "hours of its own";
    return [
      { piece: w.piece, name: `${pieceSaid(piece, units.mass)}, ${when}`, word: w.rise.windows.at(-1)?.word },
    ];
  });
  return (
    <div role="group" aria-label="Whose rise is shown" className="flex flex-wrap gap-1.5">
      {[{ piece: null, name: "the rest", word: told.rise.windows.at(-1)?.word }, ...named].map((one) => (
        <button
          key={String(one.piece)}
          type="button"
          aria-pressed={shown === one.piece}
          className={`quiet ${shown === one.piece ? "font-bold !shadow-[inset_0_0_0_2px_var(--brick)]" : ""}`}
          onClick={() => {
            onShow(one.piece);
          }}
        >
          {one.name}
          {one.word && one.word !== "ripe" ? <span className="text-brick"> ({one.word})</span> : null}
        </button>
      ))}
    </div>
  );
}

/** When it was mixed, and what was seen of it since. */
function Looks({
  desk,
  told,
  mixedAt,
  plannedAt,
  nowH,
}: {
  desk: Desk;
  told: Batch;
  mixedAt: Date | null;
  plannedAt: Date | null;
  nowH: number | null;
}) {
  const { draft } = desk;
  const seen = draft.dough.seen ?? [];
  // What was seen counts from the mixing: it moves along, and what lies before it is another batch's.
  const mixed = (moment: Date | null) => {
    const later = moment && mixedAt ? (moment.getTime() - mixedAt.getTime()) / HOUR_MS : 0;
    const moved = moment ? seen.map((s) => ({ ...s, at_h: s.at_h - later })).filter((s) => s.at_h > 0) : [];
    desk.batch.forget();
    desk.put({
      dough: { ...draft.dough, seen: moved },
      mixedAt: moment ? moment.toISOString() : null,
    });
  };
  return (
    <SeenRow
      mixedAt={mixedAt}
      plannedAt={plannedAt}
      nowH={nowH}
      speed={told.rise.speed}
      count={seen.length}
      onMixed={mixed}
      onSeen={(ratio, moment) => {
        if (!mixedAt) return;
        const at_h = Math.round((moment.getTime() - mixedAt.getTime()) / 3_600) / 1000;
        desk.rework({ ...draft.dough, seen: [...seen, { at_h, ratio }].slice(-MOST_LOOKS) });
      }}
      onForget={() => {
        desk.rework({ ...draft.dough, seen: [] });
      }}
    />
  );
}
