import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { asked as asBody } from "../../supper/draft";
import type { SupperDraft } from "../../supper/types";
import { useDebounced } from "../../ui/useDebounced";
import type { Told } from "./types";

/** The days laid out for this supper; a late answer to an old question is never shown. null: nothing is asked. */
export function useDays(draft: SupperDraft | null, supperId: number | null, dragging: boolean) {
  const body = draft?.words ? (asBody(draft, supperId) as Schemas["SupperAsk"]) : null;
  const key = JSON.stringify(body);
  const asked = useDebounced(body, key, dragging ? 60 : 150);
  const query = useQuery<Told>({
    queryKey: ["supper-preview", JSON.stringify(asked)],
    enabled: asked !== null && body !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => {
      if (!asked) throw new Error("no supper");
      return answer(client.POST("/api/timeline/preview", { body: asked, signal }));
    },
  });
  return {
    told: body === null ? null : (query.data ?? null),
    refusal: body !== null && query.error instanceof Refusal ? query.error : null,
    stale: body !== null && (query.isPlaceholderData || query.isFetching || JSON.stringify(asked) !== key),
  };
}
