import { Button } from "../../ui/Button";
import { hoursSaid } from "../../ui/time";
import { useNow } from "../../ui/useNow";
import { RiseCurve } from "./RiseCurve";
import { stageName } from "./riseScale";
import { SeenRow } from "./SeenRow";
import { awaited, clockAt, type Batch, type DoughReference } from "./types";
import type { Desk } from "./useDoughDesk";

const HOUR_MS = 3_600_000;
/** As many looks as a rise is steered by. */
const MOST_LOOKS = 20;

/** How far the dough has risen: windows in words, the curve, doses, and what the cook saw. */
export function RiseTab({ desk, told, things }: { desk: Desk; told: Batch; things: DoughReference }) {
  const { draft, batch, saved } = desk;
  const { rise } = told;
  const nowMin = useNow(30);
  const mixedAt = draft.mixedAt ? new Date(draft.mixedAt) : null;
  // Not mixed yet, but planned for a supper: the curve goes by that clock.
  const plannedAt = saved?.planned_at ? new Date(saved.planned_at) : null;
  const clockFrom = mixedAt ?? plannedAt;
  const nowH = mixedAt ? nowMin / 60 - mixedAt.getTime() / HOUR_MS : null;
  return (
    <>
      <Windows desk={desk} told={told} clockFrom={clockFrom} />
      <RiseCurve
        told={told}
        steps={draft.dough.steps}
        things={things}
        mixedAt={clockFrom}
        nowH={nowH}
        onDrag={desk.setDragging}
        onSteps={(steps) => {
          desk.rework({ ...draft.dough, steps });
        }}
      />
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <p className={rise.windows.at(-1)?.word === "ripe" ? "" : "font-semibold text-brick"}>
          {rise.say}{" "}
          <span className="font-normal text-ash">
            Times ±{Math.round((Math.exp(rise.spread) - 1) * 100)} %.
          </span>
        </p>
        <Button
          className="ml-auto"
          onClick={() => void batch.ask("solve", { dough: draft.dough, solve: "yeast" })}
        >
          Dose the yeast for this
        </Button>
        <Button onClick={() => void batch.ask("solve", { dough: draft.dough, solve: "last" })}>
          Stretch the end
        </Button>
      </div>
      <Looks desk={desk} told={told} mixedAt={mixedAt} plannedAt={plannedAt} nowH={nowH} />
    </>
  );
}

/** When each stage worth waiting for is ready, by the clock where there is one. */
function Windows({ desk, told, clockFrom }: { desk: Desk; told: Batch; clockFrom: Date | null }) {
  const { windows } = told.rise;
  const total = desk.draft.dough.steps.reduce((sum, s) => sum + s.hours, 0);
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
