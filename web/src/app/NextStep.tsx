import { server } from "../api/queries";
import { Button } from "../ui/Button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { partPath } from "../supper/draft";
import { useOutbox } from "./useOutbox";
import { clock, dayAndClock, minuteOf } from "../ui/time";
import { isBound } from "../ui/supperSteps";
import { useNow } from "../ui/useNow";

/** How long before a step it is announced, minutes; and how long after, it still is. */
const AHEAD_MIN = 15;
const BEHIND_MIN = 60;

function useNext() {
  return useQuery({
    ...server.nextStep,
    refetchInterval: 60_000,
    staleTime: 20_000,
  });
}

/** The next event of any supper, in sight everywhere. */
export function NextStep() {
  const next = useNext();
  const told = next.data;
  if (!told || told.supper_id === null || told.at === null) return null;
  return (
    <Link
      to={partPath(told.supper_id, "timeline")}
      title={told.supper}
      className="hidden px-3 py-2 leading-tight whitespace-normal hover:text-white md:block"
      data-testid="next-step"
    >
      <span className="block whitespace-nowrap font-bold text-white">{dayAndClock(told.at)}</span>
      <span className="text-[13px]">{told.step}</span>
    </Link>
  );
}

/** A step that is due: said on every view until it is done or put off. */
export function Reminder() {
  const next = useNext();
  const now = useNow(15);
  const queries = useQueryClient();
  const place = useLocation();
  const outbox = useOutbox();
  const [later, setLater] = useState("");
  const [problem, setProblem] = useState("");
  const told = next.data;
  if (!told || told.supper_id === null || told.at === null) return null;
  const mine = `${String(told.supper_id)} ${told.step_key} ${told.at}`;
  const left = minuteOf(told.at) - now;
  if (left > AHEAD_MIN || left < -BEHIND_MIN || later === mine) return null;
  const id = told.supper_id;
  const bound = isBound(told.step_key);
  const done = async () => {
    try {
      const outcome = await outbox.happened("supper.done", id, { step: told.step_key });
      setProblem(outcome?.state === "refused" ? (outcome.message ?? "") : "");
      // It waits on this device: said above, and not asked about again.
      if (outcome === null) setLater(mine);
      for (const key of ["next-step", "supper", "suppers", "dough"])
        void queries.invalidateQueries({ queryKey: [key] });
    } catch {
      setProblem("It could not be kept; mark it in the timeline.");
    }
  };
  return (
    <div
      role="status"
      data-testid="reminder"
      className="leaf fixed right-4 bottom-4 z-20 flex max-w-md flex-wrap items-baseline gap-x-4 gap-y-1 border-l-4 border-brick px-4 py-2.5 print:hidden"
    >
      <span>
        <span className="font-display text-[17px] font-bold">{told.step}</span>{" "}
        {left > 1 ? `in ${String(Math.round(left))} min` : left > -2 ? "now" : `since ${clock(told.at)}`}
        {problem ? <span className="block text-brick">{problem}</span> : null}
      </span>
      {!bound ? (
        <Button look="link" className="font-semibold text-air" onClick={() => void done()}>
          done
        </Button>
      ) : null}
      {place.pathname.endsWith("/timeline") ? null : (
        <Link className="text-air underline underline-offset-2" to={partPath(id, "timeline")}>
          look
        </Link>
      )}
      <Button
        look="link"
        className="text-ash"
        onClick={() => {
          setLater(mine);
        }}
      >
        I know
      </Button>
    </div>
  );
}
