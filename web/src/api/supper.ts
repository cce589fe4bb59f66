import { answer, client } from "./client";

/** A step is done, now; the rest of its supper is laid out anew. */
export function stepDone(supper_id: number, step: string) {
  return answer(
    client.POST("/api/timeline/{supper_id}/done", {
      params: { path: { supper_id } },
      body: { step, at: null },
    }),
  );
}
