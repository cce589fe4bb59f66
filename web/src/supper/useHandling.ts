import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../api/client";
import { useDebounced } from "../ui/useDebounced";
import { asked } from "./draft";
import type { SupperAtHand } from "./useSupper";

/** Handling of the supper at hand, and what is used beside its dough; undefined until it is known. */
export function useHandling(supper: SupperAtHand): Schemas["HandlingOut"] | undefined {
  const body = asked(supper.shown, supper.saved?.id ?? null);
  const later = useDebounced(body, JSON.stringify(body), 300);
  return useQuery({
    queryKey: ["handling", JSON.stringify(later)],
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => answer(client.POST("/api/timeline/handling", { body: later, signal })),
  }).data;
}
