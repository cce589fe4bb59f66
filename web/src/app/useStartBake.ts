import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../api/client";
import { server } from "../api/queries";
import { nowMs } from "../ui/clock";

export type Start = Partial<Schemas["StartIn"]>;

/** Puts the heat on, now or so many minutes ago, and goes to the bake. */
export function useStartBake() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: ({ minutesAgo = 0, ...start }: Start & { minutesAgo?: number }) =>
      answer(
        client.POST("/api/bakes", {
          body: {
            thickness: "usual",
            heat_on_at: new Date(nowMs() - minutesAgo * 60_000).toISOString(),
            ...start,
          },
        }),
      ),
    onSuccess: (bake) => {
      queries.setQueryData(server.bake(bake.id).queryKey, bake);
      void queries.invalidateQueries({ queryKey: server.underWay.queryKey });
      void navigate(`/bake/${String(bake.id)}`);
    },
  });
}
