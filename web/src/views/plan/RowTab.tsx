import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { doughAsked, tonight, withWords } from "../../supper/draft";
import type { SupperAtHand } from "../../supper/useSupper";
import { bakeTime, clockAfter } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Controls, Sentence } from "./types";

/** Pizzas in a row, until the supper says how many. */
const USUAL_COUNT = 4;

/** Several pizzas one after another: when each goes in, and how the last differs from the first. */
export function RowTab({
  sentence,
  controls,
  planId,
  firstLaunch,
  supper,
}: {
  sentence: Sentence;
  controls: Controls;
  planId: number | null;
  firstLaunch: string;
  supper: SupperAtHand;
}) {
  const units = useUnits();
  const { words, dough } = supper.shown;
  const [typed, setCount] = useState<number | null>(null);
  const count = typed ?? (dough && tonight(dough.dough)) ?? words?.pizzas ?? USUAL_COUNT;
  // Two at once belongs to the supper, where it has its hours; before that it is tried here.
  const [tried, setTried] = useState(1);
  const together = words?.together ?? tried;
  const [hurry, setHurry] = useState(false);
  const body = {
    sentence,
    controls,
    plan_id: planId,
    dough: dough ? doughAsked(dough.dough) : null,
    count,
    gap_min: hurry ? 1 : null,
    hands: words?.hands ?? 1,
    together,
  };
  const row = useQuery({
    queryKey: ["row", body],
    queryFn: ({ signal }) => answer(client.POST("/api/plans/row", { body, signal })),
    placeholderData: keepPreviousData,
    gcTime: 30_000,
  });
  const launches = row.data?.launches ?? [];
  const first = launches[0];
  const last = launches.at(-1);
  return (
    <div className={row.isPlaceholderData ? "opacity-60" : ""} data-row={row.isFetching ? "old" : "now"}>
      <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <label className="flex items-baseline gap-1.5">
          <select
            aria-label="how many pizzas"
            className="field px-1"
            value={count}
            onChange={(e) => {
              setCount(Number(e.target.value));
            }}
          >
            {Array.from({ length: 12 }, (_, i) => (
              <option key={i}>{i + 1}</option>
            ))}
          </select>
          <span className="whitespace-nowrap">in a row</span>
        </label>
        <label className="flex items-baseline gap-1.5">
          <input
            type="checkbox"
            checked={hurry}
            onChange={(e) => {
              setHurry(e.target.checked);
            }}
          />
          without waiting for the deck
        </label>
        {row.data?.may_be_together ? (
          <label className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              checked={together > 1}
              onChange={(e) => {
                const next = e.target.checked ? 2 : 1;
                if (words) supper.change((was) => withWords(was, words, { together: next }));
                else setTried(next);
              }}
            />
            two trays at once
          </label>
        ) : null}
      </p>
      {row.error ? (
        <p role="alert" className="mt-2 text-brick">
          {units.say(row.error.message)}
        </p>
      ) : null}
      <ol className="mt-2 grid gap-y-1">
        {launches.map((l, i) => (
          <li key={i} className="grid grid-cols-[1.2rem_3.1rem_1fr] gap-x-1 leading-snug">
            <span className="text-ash">{i + 1}</span>
            <b>{clockAfter(firstLaunch, l.launch_s)}</b>
            <span>
              deck {units.temp(l.deck_at_launch_c)}, {bakeTime(l.likely_done_s)}: base {l.at_done.base_word},
              rim {l.at_done.rim_word}
            </span>
          </li>
        ))}
      </ol>
      {row.data?.say ? <p className="mt-2 leading-snug font-semibold">{row.data.say}</p> : null}
      {first && last && launches.length > 1 ? (
        <p className="mt-2 border-t border-line pt-2 leading-snug" data-testid="row-said">
          {rowSaid(first, last, launches.length, units)}
        </p>
      ) : null}
    </div>
  );
}

type Launch = Schemas["Launch"];

/** The difference in one sentence a cook can act on. */
export function rowSaid(
  first: Launch,
  last: Launch,
  count: number,
  units: ReturnType<typeof useUnits>,
): string {
  const cooler = first.deck_at_launch_c - last.deck_at_launch_c;
  const longer = last.likely_done_s - first.likely_done_s;
  const said: string[] = [];
  said.push(
    Math.abs(cooler) < 3
      ? "on a deck as hot"
      : `on a deck ${units.tempDifference(Math.abs(cooler))} ${cooler > 0 ? "cooler" : "hotter"}`,
  );
  said.push(
    Math.abs(longer) < 8 ? "as long" : `${bakeTime(Math.abs(longer))} ${longer > 0 ? "longer" : "shorter"}`,
  );
  const same =
    first.at_done.base_word === last.at_done.base_word && first.at_done.rim_word === last.at_done.rim_word;
  said.push(same ? "the same crust" : `base ${last.at_done.base_word}, rim ${last.at_done.rim_word}`);
  const wait =
    first.back_min != null ? ` The deck needs ${String(Math.round(first.back_min))} min between two.` : "";
  return `Number ${String(count)} against the first: ${said.join(", ")}.${wait}`;
}
