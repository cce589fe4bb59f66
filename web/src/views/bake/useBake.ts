import { useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Schemas } from "../../api/client";
import { answerBake, server } from "../../api/queries";
import { useOutbox } from "../../app/useOutbox";
import { stages } from "../../ui/bakeStages";
import type { Happened, Tell } from "../../ui/bakeTypes";

/** How often another device's taps are looked for, and the engine is asked though nothing was told, ms. */
const LOOK_EVERY = 4000;
const ASK_EVERY = 20_000;
/** What was taken is in the server's list by then, ms. */
const TAKEN_FOR = 20_000;
type BakeAnswer = Schemas["AnswerOut"];
type Waiting = Happened & { takenMs: number | null };
/** What is told of one of the pizzas. */
const OF_A_PIZZA = new Set([
  "bake.launched",
  "bake.done",
  "bake.skipped",
  "bake.seen",
  "bake.sign",
  "bake.pulled",
]);

/** The answer to the most of what was told that is still known here. */
export function newestAnswer(queries: QueryClient, id: number): BakeAnswer | undefined {
  const known = queries
    .getQueriesData<BakeAnswer>({ queryKey: ["bake-answer", id] })
    .flatMap(([, answer]) => (answer ? [answer] : []));
  return known.sort((a, b) => b.told - a.told)[0];
}

/**
 * The answer that stands: the one to what was told last, or until it comes the newest there is. A question that failed, as it does
 * without a connection, takes no answer away (a query's placeholder would: it is dropped with the first failure).
 */
export function standingAnswer(
  queries: QueryClient,
  id: number,
  latest: BakeAnswer | undefined,
): BakeAnswer | undefined {
  return latest ?? newestAnswer(queries, id);
}

/** A bake as it stands: what the server has, what still waits on this device, and the engine's last answer. */
export function useBake(id: number) {
  const queries = useQueryClient();
  const outbox = useOutbox();
  const bake = useQuery({
    ...server.bake(id),
    refetchInterval: LOOK_EVERY,
    refetchIntervalInBackground: true,
  });
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  useEffect(() => {
    let here = true;
    const look = () =>
      void outbox.waitingOf(id).then((rows) => {
        if (!here) return;
        const ids = new Set(rows.map((one) => one.id));
        // What the server took stays drawn until its own list has it; what it refused goes.
        setWaiting((before) => [
          ...rows.map((one) => ({ ...one, undone: false, takenMs: null })),
          ...before
            .filter((one) => !ids.has(one.id) && !outbox.wasRefused(one.id))
            .map((one) => ({ ...one, takenMs: one.takenMs ?? Date.now() }))
            .filter((one) => Date.now() - one.takenMs < TAKEN_FOR),
        ]);
      });
    look();
    const stop = outbox.subscribe(look);
    return () => {
      here = false;
      stop();
    };
  }, [outbox, id]);
  const happened = useMemo(() => {
    const known = bake.data?.happened ?? [];
    const ids = new Set(known.map((one) => one.id));
    return [...known, ...waiting.filter((one) => !ids.has(one.id))];
  }, [bake.data, waiting]);
  const stage = stages(happened, bake.data?.pizzas ?? 1);
  const told = bake.data?.happened.length ?? 0;
  const live = useQuery({
    queryKey: ["bake-answer", id, told],
    queryFn: () => answerBake(id),
    enabled: bake.data !== undefined && stage.pulledMs === null && stage.endedMs === null,
    refetchInterval: ASK_EVERY,
    refetchIntervalInBackground: true,
    staleTime: 0,
  });
  const pizza = stage.pizza;
  const tell: Tell = useCallback(
    (kind, said = {}, atMs) => {
      const payload = OF_A_PIZZA.has(kind) && pizza > 1 ? { ...said, pizza } : said;
      void outbox
        .happened(kind, id, payload, atMs)
        .catch(() => null)
        .then(() => {
          void queries.invalidateQueries({ queryKey: server.bake(id).queryKey });
          void queries.invalidateQueries({ queryKey: server.underWay.queryKey });
        });
    },
    [outbox, queries, id, pizza],
  );
  return {
    bake,
    happened,
    stage,
    live,
    answer: standingAnswer(queries, id, live.data),
    tell,
    waiting: waiting.filter((one) => one.takenMs === null).length,
  };
}
