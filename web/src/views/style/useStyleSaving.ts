import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { server } from "../../api/queries";
import { useUndo } from "../../app/Undo";
import type { OwnStyle, StyleBody } from "../../ui/styles";
import { asKept } from "./figures";

/** Keeping a style as one's own, and retiring it. */
export function useStyleSaving(own: OwnStyle | null, version: number | null, putAway: () => void) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const offerUndo = useUndo();
  const again = async () => {
    await queries.invalidateQueries({ queryKey: server.styles.queryKey });
    await queries.invalidateQueries({ queryKey: server.match.queryKey });
  };
  const keeping = useMutation({
    mutationFn: async (s: StyleBody): Promise<number> => {
      const body = asKept(s) as unknown as Schemas["Style"];
      if (!own) return (await answer(client.POST("/api/styles", { body }))).id;
      const params = { path: { style_id: own.id }, query: { version: version ?? own.version } };
      return (await answer(client.PUT("/api/styles/{style_id}", { params, body }))).id;
    },
    onSuccess: async (id) => {
      putAway();
      await again();
      if (!own) void navigate(`/match/style/own-${String(id)}`, { replace: true });
    },
  });
  const retiring = useMutation({
    mutationFn: ({ id, version: of }: OwnStyle) =>
      answer(
        client.DELETE("/api/styles/{style_id}", {
          params: { path: { style_id: id }, query: { version: of } },
        }),
      ),
    onSuccess: async (_, { id, style }) => {
      offerUndo({
        text: `${style.name} is retired; saved plans keep it.`,
        undo: () => {
          void answer(
            client.POST("/api/styles/{style_id}/restore", { params: { path: { style_id: id } } }),
          ).then(again);
        },
      });
      void navigate("/match");
      await again();
    },
  });
  return { keeping, retiring };
}
