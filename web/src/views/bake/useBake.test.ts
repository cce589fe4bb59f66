import { dehydrate, hydrate, QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { newestAnswer, standingAnswer } from "./useBake";

const answered = (told: number) => ({ told, live: { say: `after ${String(told)}` } });

describe("the newest answer to a bake", () => {
  it("is that to the most of what was told, of this bake alone, and outlives being written down", () => {
    const queries = new QueryClient();
    queries.setQueryData(["bake-answer", 7, 2], answered(2));
    queries.setQueryData(["bake-answer", 7, 10], answered(10));
    queries.setQueryData(["bake-answer", 7, 9], answered(9));
    queries.setQueryData(["bake-answer", 71, 12], answered(12));
    const anew = new QueryClient();
    hydrate(anew, JSON.parse(JSON.stringify(dehydrate(queries))));
    for (const known of [queries, anew]) expect(newestAnswer(known, 7)?.told).toBe(10);
  });

  it("stands when the question after it fails: opened anew without a connection, the next step is still shown", async () => {
    const queries = new QueryClient();
    queries.setQueryData(["bake-answer", 7, 4], answered(4));
    const asking = new QueryObserver<ReturnType<typeof answered>>(queries, {
      queryKey: ["bake-answer", 7, 5],
      queryFn: () => Promise.reject(new Error("no connection")),
      retry: false,
      placeholderData: answered(4),
    });
    const stop = asking.subscribe(() => undefined);
    await vi.waitFor(() => {
      expect(asking.getCurrentResult().isError).toBe(true);
    });
    // The query itself has nothing left; this is what the page showed, and why it showed no next step.
    expect(asking.getCurrentResult().data).toBeUndefined();
    expect(standingAnswer(queries, 7, undefined)?.told).toBe(4);
    stop();
  });

  it("is none where nothing was answered yet, though something was asked", async () => {
    const queries = new QueryClient();
    await queries.prefetchQuery({
      queryKey: ["bake-answer", 7, 1],
      queryFn: () => Promise.reject(new Error("no line")),
      retry: false,
    });
    expect(newestAnswer(queries, 7)).toBeUndefined();
  });
});
