import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { doughAsked } from "../../supper/draft";
import type { DoughInput } from "../../supper/types";
import { useDebounced } from "../../ui/useDebounced";
import type { Draft, Preview } from "./types";

interface Spread {
  look_from: number;
  window_end: number;
}

/**
 * The draft as the engine plays it. While something is dragged the server only sketches. Each
 * question has its own key, so a late answer to an old question is never shown.
 */
export function usePlayed(
  draft: Draft | null,
  dough: DoughInput | null,
  planId: number | null,
  dragging: boolean,
  spread: Spread,
) {
  const body = draft
    ? {
        sentence: draft.sentence,
        controls: draft.controls,
        plan_id: planId,
        dough: dough && doughAsked(dough),
      }
    : null;
  const sketched = dragging && draft?.controls != null;
  const asked = useDebounced({ body, sketched }, JSON.stringify([body, sketched]), sketched ? 15 : 120);
  const query = useQuery<Preview>({
    queryKey: ["played", asked],
    enabled: asked.body !== null,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    queryFn: ({ signal }) => {
      if (asked.body === null) throw new Error("nothing to play");
      return asked.sketched
        ? answer(client.POST("/api/plans/sketch", { body: { ...asked.body, spread }, signal }))
        : answer(client.POST("/api/plans/preview", { body: asked.body, signal }));
    },
  });
  // True from the moment something changes until its answer is asked for.
  const behind = JSON.stringify(asked) !== JSON.stringify({ body, sketched });
  return { ...query, behind };
}
