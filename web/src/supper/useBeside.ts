import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../api/client";
import { useDebounced } from "../ui/useDebounced";
import { asked } from "./draft";
import type { SupperAtHand } from "./useSupper";

/** What is used beside the dough of the supper at hand; undefined until it is known. */
export function useBeside(supper: SupperAtHand): Schemas["BesideItem"][] | undefined {
  const body = asked(supper.shown, supper.saved?.id ?? null);
  const later = useDebounced(body, JSON.stringify(body), 300);
  return useQuery({
    queryKey: ["beside", JSON.stringify(later)],
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
    queryFn: ({ signal }) => answer(client.POST("/api/timeline/beside", { body: later, signal })),
  }).data;
}
