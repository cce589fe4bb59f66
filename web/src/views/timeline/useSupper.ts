import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { useDebounced } from "../../ui/useDebounced";
import type { Told, Words } from "./types";

export function asQuestion(words: Words): Schemas["SupperWords"] {
  return words as Schemas["SupperWords"];
}

/** The days laid out for these words; a late answer to an old question is never shown. */
export function useSupper(words: Words | null, dragging: boolean) {
  const key = JSON.stringify(words);
  const asked = useDebounced(words, key, dragging ? 60 : 150);
  const query = useQuery<Told>({
    queryKey: ["supper-preview", JSON.stringify(asked)],
    enabled: asked !== null && words !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => {
      if (!asked) throw new Error("no supper");
      return answer(client.POST("/api/timeline/preview", { body: asQuestion(asked), signal }));
    },
  });
  return {
    told: words === null ? null : (query.data ?? null),
    refusal: words !== null && query.error instanceof Refusal ? query.error : null,
    stale: words !== null && (query.isPlaceholderData || query.isFetching || JSON.stringify(asked) !== key),
  };
}
