import { afterEach, describe, expect, it, vi } from "vitest";
import { MemoryStore } from "./tests/memoryStore";
import { Outbox } from "./outbox";

/** A drawn run of misfortunes; the same for a seed every time. */
function drawn(seed: number) {
  let state = seed * 2654435761 + 1;
  return (most: number) => {
    state = (state * 1664525 + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * most);
  };
}

describe("whatever lies between the page and the server", () => {
  afterEach(() => {
    vi.unstubAllGlobals();
  });

  const MATTONE = { "X-Mattone": "0.11.0+a", "Content-Type": "application/json" };
  const refusal = (status: number, headers: Record<string, string> = MATTONE) =>
    new Response(JSON.stringify({ error: { path: "", message: "No." } }), { status, headers });

  it.each(Array.from({ length: 40 }, (_, seed) => seed))(
    "loses nothing and repeats nothing (%i)",
    async (seed) => {
      const draw = drawn(seed);
      const counted = new Map<string, number>();
      const bad = new Set<number>();
      const judge = (events: { id: string; subject_id: number }[]) =>
        events.map(({ id, subject_id }) => {
          if (bad.has(subject_id)) return { id, state: "refused", message: "Not so." };
          const before = counted.get(id) ?? 0;
          if (before === 0) counted.set(id, 1);
          return { id, state: before ? "known" : "taken", message: "" };
        });
      let calm = false;
      vi.stubGlobal("fetch", async (request: Request) => {
        const { events } = (await request.json()) as { events: { id: string; subject_id: number }[] };
        const misfortunes: (() => Response)[] = [
          ...[404, 405, 429, 500, 502, 503].map((status) => () => refusal(status)),
          // A verdict of Mattone's own on the whole batch, though only one is bad, or none.
          () => refusal(events.some((one) => bad.has(one.subject_id)) ? 422 : 503),
          () => refusal(events.length > 3 ? 413 : 503),
          // From something in between.
          ...[404, 413, 422].map((status) => () => refusal(status, {})),
          () => new Response("<html>Sign in to our network</html>", { status: 200 }),
          () => {
            throw new TypeError("the line broke");
          },
          () => {
            judge(events);
            throw new TypeError("the answer was lost");
          },
          () => new Response("{", { status: 200, headers: MATTONE }),
          () => new Response(JSON.stringify({ events: judge(events.slice(0, 1)) }), { headers: MATTONE }),
        ];
        if (!calm && draw(3) > 0) return misfortunes[draw(misfortunes.length)]?.() ?? refusal(503);
        return new Response(JSON.stringify({ events: judge(events) }), { headers: MATTONE });
      });
      vi.stubGlobal("document", { cookie: "", querySelector: () => null });
      const store = new MemoryStore();
      const box = new Outbox("keeper", store, undefined, () => Promise.resolve());
      for (let i = 0; i < 12; i++) {
        if (draw(6) === 0) bad.add(i);
        await box.happened("bake.seen", i, {});
        if (draw(3) === 0) await box.flush();
      }
      const there = () => counted.size + store.rows.length;
      expect(there()).toBeGreaterThanOrEqual(12);
      calm = true;
      await box.flush();
      expect(box.waiting).toBe(0);
      expect([...counted.values()].every((times) => times === 1)).toBe(true);
      expect(counted.size).toBe(12 - bad.size);
      expect(box.rejected.map((one) => one.subject_id).sort((a, b) => a - b)).toEqual(
        [...bad].sort((a, b) => a - b),
      );
    },
  );
});
