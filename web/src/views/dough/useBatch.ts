import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import { asked, type Batch, type Change, type DoughInput } from "./types";

/**
 * The dough worked out. A direct edit is asked for as it is; an edit that the engine carries through
 * (a mass, a percentage, a dose) comes back as another dough. A late answer is never shown.
 */
export function useBatch(dough: DoughInput | null, take: (dough: DoughInput) => void) {
  const queries = useQueryClient();
  const query = useQuery<Batch>({
    queryKey: ["batch", JSON.stringify(dough)],
    enabled: dough !== null,
    placeholderData: keepPreviousData,
    gcTime: 20_000,
    retry: false,
    queryFn: ({ signal }) => {
      if (!dough) throw new Error("no dough");
      return answer(
        client.POST("/api/dough/batch", { body: { dough: asked(dough), solve: "nothing" }, signal }),
      );
    },
  });
  const turn = useRef(0);
  const [problem, setProblem] = useState<{ at: string; text: string } | null>(null);
  const ask = async (
    at: string,
    body: { dough: DoughInput; change?: Change; solve?: "nothing" | "yeast" | "last" },
  ) => {
    const mine = ++turn.current;
    try {
      const told = await answer(
        client.POST("/api/dough/batch", {
          body: { dough: asked(body.dough), change: body.change ?? null, solve: body.solve ?? "nothing" },
        }),
      );
      if (mine !== turn.current) return;
      setProblem(null);
      queries.setQueryData(["batch", JSON.stringify(told.dough)], told);
      take(told.dough);
      return told;
    } catch (error) {
      if (mine === turn.current && error instanceof Refusal) setProblem({ at, text: error.message });
    }
  };
  const refusal = query.error instanceof Refusal ? query.error : null;
  return {
    told: query.data ?? null,
    refusal,
    stale: query.isPlaceholderData || query.isFetching,
    problem,
    forget: () => {
      turn.current += 1;
      setProblem(null);
    },
    ask,
    again: () => void query.refetch(),
  };
}
