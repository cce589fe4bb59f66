import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink } from "react-router";
import { answer, client } from "../../api/client";
import { DamagedRow } from "../../app/DamagedRow";
import { Button } from "../../ui/Button";
import { MiniSlice } from "../../ui/MiniSlice";
import { useDebounced } from "../../ui/useDebounced";
import { crustForm, type CrustForm } from "../../ui/sliceShape";
import { useStyles } from "../../ui/styles";
import { bakeTime, dateOf } from "../../ui/time";
import { gist, lightness, monthsAgo, type Fault, type Line } from "./book";
import { Filters, NOTHING_ASKED, type Asked } from "./Filters";
import { TakeBook } from "./TakeBook";
import { TellBake } from "./TellBake";
import type { Reference } from "../../ui/crust";

const PAGE = 40;

/** Every bake as a crust as it was seen, the newest first. */
export function Book({
  open,
  reference,
  faults,
  weigh,
}: {
  open: number | null;
  reference: Reference;
  faults: readonly Fault[];
  /** Something came in that is to be weighed. */
  weigh: () => void;
}) {
  const [asked, setAsked] = useState<Asked>(NOTHING_ASKED);
  const [telling, setTelling] = useState(false);
  const settled = useDebounced(asked, JSON.stringify(asked), 250);
  const book = useInfiniteQuery({
    queryKey: ["logbook", "book", settled],
    initialPageParam: "",
    queryFn: async ({ pageParam }) => {
      const { months, ...words } = settled;
      const since = months > 0 ? monthsAgo(months) : null;
      const query = { ...words, since, page_size: PAGE, after: pageParam };
      const got = await client.GET("/api/logbook", { params: { query } });
      return { lines: got.data ?? [], next: got.response.headers.get("X-Next") ?? "" };
    },
    getNextPageParam: (last) => last.next || null,
  });
  const styles = useStyles();
  const forms = new Map((styles.data?.known ?? []).map((one) => [one.key as string, crustForm(one)]));
  const lines = book.data?.pages.flatMap((one) => one.lines) ?? [];
  return (
    <>
      <div className="flex items-baseline justify-between gap-3">
        <h1 className="text-[28px] font-bold">Logbook</h1>
        <Button
          look="press"
          className="min-h-11 px-3"
          aria-expanded={telling}
          onClick={() => {
            setTelling(!telling);
          }}
        >
          Tell a bake
        </Button>
      </div>
      {telling ? (
        <TellBake
          done={() => {
            setTelling(false);
          }}
        />
      ) : null}
      <Filters asked={asked} change={setAsked} faults={faults} />
      {book.isSuccess && lines.length === 0 ? (
        <p className="mt-4 max-w-prose">
          {asked === NOTHING_ASKED
            ? "Nothing is logged yet. A bake that you follow with Mattone comes in here by itself; any other you can tell in a minute."
            : "No bake is like that. Ask for less."}
        </p>
      ) : null}
      <ul className="mt-2" aria-label="Bakes">
        {lines.map((line) => (
          <Row
            key={line.id}
            line={line}
            form={forms.get(line.style) ?? "round"}
            open={line.id === open}
            reference={reference}
            faults={faults}
          />
        ))}
      </ul>
      {book.hasNextPage ? (
        <Button className="mt-3 min-h-11 w-full" onClick={() => void book.fetchNextPage()}>
          Older bakes
        </Button>
      ) : null}
      <TakeBook weigh={weigh} />
    </>
  );
}

function Row({
  line,
  form,
  open,
  reference,
  faults,
}: {
  line: Line;
  form: CrustForm;
  open: boolean;
  reference: Reference;
  faults: readonly Fault[];
}) {
  const queries = useQueryClient();
  const base = lightness(line.came.base, reference.words);
  const rim = lightness(line.came.rim, reference.words);
  const cheese = lightness(line.came.cheese, reference.cheese_words);
  const seen = base !== null || rim !== null;
  const path = { path: { entry_id: line.id } };
  const refresh = () => queries.invalidateQueries({ queryKey: ["logbook"] });
  if (line.problem)
    return (
      <li className="border-t border-line px-1">
        <DamagedRow
          name={line.name}
          problem={line.problem}
          remove={() =>
            answer(
              client.DELETE("/api/logbook/{entry_id}", {
                params: { ...path, query: { version: line.version } },
              }),
            ).then(refresh)
          }
          restore={() =>
            answer(client.POST("/api/logbook/{entry_id}/restore", { params: path })).then(refresh)
          }
        />
      </li>
    );
  return (
    <li className="border-t border-line">
      <NavLink
        to={`/logbook/${String(line.id)}`}
        className={`flex min-h-16 items-center gap-4 px-1 py-2 ${open ? "bg-brick-wash" : "hover:bg-brick-wash"}`}
      >
        <MiniSlice
          className="h-[34px] w-[91px]"
          ramp={reference.ramp}
          baseL={base ?? rim ?? line.foretold?.base_l ?? 70}
          rimL={rim ?? base ?? line.foretold?.rim_l ?? 70}
          cheeseL={cheese ?? line.foretold?.cheese_l ?? 76}
          dryMm={2}
          thick={line.came.thickness_mm ? Math.min(18, line.came.thickness_mm * 0.8) : 10}
          form={form}
          faded={!seen}
        />
        <span className="min-w-0 flex-1">
          <span className="block font-semibold">{line.name}</span>
          <span className="block truncate">{gist(line, faults)}</span>
          <span className="block text-[13.5px] text-ash">
            {dateOf(line.baked_at)} · {bakeTime(line.pulled_s)}
            {line.support ? ` · ${line.support}` : ""}
          </span>
        </span>
        <span
          className="font-display text-[26px] font-bold tabular-nums"
          aria-label={line.score ? `score ${String(line.score)}` : undefined}
        >
          {line.score ?? ""}
        </span>
      </NavLink>
    </li>
  );
}
