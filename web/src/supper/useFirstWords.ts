import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import { HERE } from "../ui/time";
import { doughAsked } from "./draft";
import type { Words } from "./types";
import type { SupperAtHand } from "./useSupper";

/** The words of the supper at hand; without any it begins with the coming Saturday evening. */
export function useFirstWords(supper: SupperAtHand) {
  const { words, dough, plan } = supper.draft;
  const first = useQuery({
    queryKey: ["supper-start", JSON.stringify([dough?.dough, plan])],
    enabled: words === null,
    staleTime: Infinity,
    queryFn: () =>
      answer(
        client.POST("/api/timeline/start", {
          body: { dough: dough && doughAsked(dough.dough), plan, time_zone: HERE },
        }),
      ),
  });
  const proposal = words === null ? (first.data as Words | undefined) : undefined;
  return {
    words: words ?? proposal ?? null,
    proposal,
    error: words === null ? first.error : null,
    again: () => void first.refetch(),
  };
}
