import { describe, expect, it, vi } from "vitest";
import { Refusal } from "./client";
import { heardTime } from "../ui/clock";
import type { Happened, Store } from "./eventStore";
import { MemoryStore } from "./tests/memoryStore";
import { Outbox, type Outcome, type Send } from "./outbox";

/** A server that counts each event once, and may be away. */
class Server {
  counted = new Map<string, Omit<Happened, "owner">>();
  away = false;
  /** The next answer is lost on its way back. */
  forgets = false;
  refuses = "";
  calls = 0;

  send: Send = (events) => {
    this.calls++;
    if (this.away) return Promise.reject(new Refusal(0, "", "does not answer"));
    const outcomes = events.map((one): Outcome => {
      if (this.refuses) return { id: one.id, state: "refused", message: this.refuses };
      if (this.counted.has(one.id)) return { id: one.id, state: "known" };
      this.counted.set(one.id, one);
      return { id: one.id, state: "taken" };
    });
    if (this.forgets) {
      this.forgets = false;
      return Promise.reject(new Refusal(0, "", "the line broke"));
    }
    return Promise.resolve(outcomes);
  };
}

const made = (store: Store = new MemoryStore()) => {
  const server = new Server();
  return { server, store, box: new Outbox("keeper", store, server.send, () => Promise.resolve()) };
};

describe("the outbox", () => {
  it("tells what happened, once, and lets it go", async () => {
    const { server, store, box } = made();
    const outcome = await box.happened("dough.seen", 4, { ratio: 1.5 });
    expect(outcome?.state).toBe("taken");
    expect([...server.counted.values()]).toMatchObject([
      { kind: "dough.seen", subject_id: 4, payload: { ratio: 1.5 } },
    ]);
    expect(await store.count("keeper")).toBe(0);
    await box.flush();
    expect(server.counted.size).toBe(1);
  });

  it("keeps it while the server is away, with the time it happened", async () => {
    const { server, box } = made();
    server.away = true;
    const before = Date.now();
    expect(await box.happened("supper.done", 1, { step: "mix" })).toBeNull();
    expect(box.waiting).toBe(1);
    expect(box.rejected).toEqual([]);
    server.away = false;
    await new Promise((resolve) => setTimeout(resolve, 15));
    await box.flush();
    expect(box.waiting).toBe(0);
    const told = [...server.counted.values()][0];
    expect(Math.abs(Date.parse(told?.at ?? "") - before)).toBeLessThan(12);
  });

  it("hears the server's time before it tells, and puts right what a wrong clock said", async () => {
    const store = new MemoryStore();
    const server = new Server();
    server.away = true;
    // The device runs 40 minutes ahead; nothing was heard while it was away.
    const ahead = 40 * 60_000;
    const hear = vi.fn(() => {
      if (!server.away) heardTime(new Date(Date.now() - ahead).toUTCString(), 10);
      return Promise.resolve();
    });
    const box = new Outbox("keeper", store, server.send, hear);
    const heldMs = Date.now();
    await box.happened("bake.launched", 3, {});
    expect(Math.abs(Date.parse((await box.waitingOf(3))[0]?.at ?? "") - heldMs)).toBeLessThan(100);
    server.away = false;
    await box.flush();
    const told = [...server.counted.values()][0];
    expect(Math.abs(Date.parse(told?.at ?? "") - (heldMs - ahead))).toBeLessThan(1500);
    expect(await box.waitingOf(3)).toEqual([]);
    // What happens from now on is not moved a second time.
    await box.happened("bake.pulled", 3, {});
    const pulled = [...server.counted.values()][1];
    expect(Math.abs(Date.parse(pulled?.at ?? "") - (Date.now() - ahead))).toBeLessThan(1500);
    expect((pulled?.ticks?.ms ?? 0) - (told?.ticks?.ms ?? 0)).toBeGreaterThanOrEqual(0);
    expect(pulled?.ticks?.run).toBe(told?.ticks?.run);
    heardTime(new Date().toUTCString(), 10);
  });

  it("an answer that is lost on its way is asked for again, and counts once", async () => {
    const { server, box } = made();
    server.forgets = true;
    expect(await box.happened("supper.done", 1, { step: "ball" })).toBeNull();
    expect(server.counted.size).toBe(1);
    await box.flush();
    expect(server.counted.size).toBe(1);
    expect(box.waiting).toBe(0);
  });

  it("keeps what is refused, with the reason, until the cook discards it; that can be undone", async () => {
    const { server, store, box } = made();
    server.refuses = "This supper has no such step.";
    const outcome = await box.happened("supper.done", 1, { step: "dance" });
    expect(outcome?.state).toBe("refused");
    expect(box.rejected).toMatchObject([
      { kind: "supper.done", payload: { step: "dance" }, rejected: { why: "This supper has no such step." } },
    ]);
    expect(box.waiting).toBe(0);
    // It holds up nothing, and is not sent again to the same Mattone.
    server.refuses = "";
    await box.happened("supper.done", 1, { step: "mix" });
    expect(server.counted.size).toBe(1);
    const undo = await box.discardRejected();
    expect([box.rejected, await store.rejected("keeper")]).toEqual([[], []]);
    await undo();
    expect(box.rejected).toHaveLength(1);
  });

  it("sends what one version did not record to the next", async () => {
    const server = new Server();
    let version = "0.10.0+a";
    const box = new Outbox(
      "keeper",
      new MemoryStore(),
      server.send,
      () => Promise.resolve(),
      () => version,
    );
    server.refuses = "This Mattone does not know the event.";
    await box.happened("bake.smelled", 1, {});
    server.refuses = "";
    await box.flush();
    expect(server.counted.size).toBe(0);
    version = "0.11.0+b";
    await box.flush();
    expect(server.counted.size).toBe(1);
    expect(box.rejected).toEqual([]);
  });

  it("many at once are all told, each once, in order", async () => {
    const { server, box } = made();
    const outcomes = await Promise.all(
      Array.from({ length: 120 }, (_, i) => box.happened("dough.seen", 4, { ratio: 1 + i / 1000 })),
    );
    expect(outcomes.every((one) => one?.state === "taken")).toBe(true);
    const ratios = [...server.counted.values()].map((one) => one.payload.ratio as number);
    expect(ratios).toHaveLength(120);
    expect(ratios).toEqual([...ratios].sort((a, b) => a - b));
    expect(box.waiting).toBe(0);
  });

  it("stops asking when the session ended, and keeps what waits", async () => {
    const store = new MemoryStore();
    const box = new Outbox("keeper", store, () => Promise.reject(new Refusal(401, "", "Sign in first.")));
    expect(await box.happened("dough.seen", 4, { ratio: 1.2 })).toBeNull();
    expect(store.rows).toHaveLength(1);
    expect(box.rejected).toEqual([]);
  });

  it("finds the bad one of a batch and keeps it alone", async () => {
    const store = new MemoryStore();
    const server = new Server();
    server.away = true;
    let batches = 0;
    const picky: Send = (events) => {
      batches++;
      return events.some((one) => one.kind === "bad")
        ? Promise.reject(new Refusal(422, "events.7.at", "is not a time."))
        : server.send(events);
    };
    const box = new Outbox("keeper", store, picky, () => Promise.resolve());
    for (let i = 0; i < 20; i++) await box.happened(i === 7 ? "bad" : "good", i, {});
    server.away = false;
    await box.flush();
    expect(server.counted.size).toBe(19);
    expect(box.rejected).toMatchObject([{ subject_id: 7, rejected: { why: "is not a time." } }]);
    expect(store.rows).toHaveLength(1);
    expect(batches).toBeLessThan(60);
  });

  it("an answer that says nothing of what was sent leaves everything waiting", async () => {
    const store = new MemoryStore();
    const box = new Outbox(
      "keeper",
      store,
      () => Promise.resolve([{ id: "x", state: "taken" }]),
      () => Promise.resolve(),
    );
    expect(await box.happened("dough.seen", 4, { ratio: 1.2 })).toBeNull();
    expect([store.rows.length, box.waiting]).toEqual([1, 1]);
  });

  it("a device without room tells at once, and says so", async () => {
    const store = new MemoryStore();
    store.full = true;
    const { server, box } = made(store);
    expect((await box.happened("dough.seen", 4, { ratio: 1.2 }))?.state).toBe("taken");
    expect(box.full).toBe(true);
    expect(server.counted.size).toBe(1);
    server.away = true;
    await expect(box.happened("dough.seen", 4, { ratio: 1.3 })).rejects.toMatchObject({ status: 0 });
    store.full = false;
    server.away = false;
    await box.happened("dough.seen", 4, { ratio: 1.4 });
    expect(box.full).toBe(false);
  });

  it("another cook's things on this device are not told in this one's name", async () => {
    const { server, store, box } = made();
    await store.put({ id: "1", owner: "mate", kind: "k", subject_id: 1, at: "", payload: {} });
    await box.flush();
    expect(server.calls).toBe(0);
    expect(await store.count("mate")).toBe(1);
  });

  it("tells its listeners, and forgets them", async () => {
    const { box } = made();
    const heard = vi.fn();
    const forget = box.subscribe(heard);
    await box.happened("dough.seen", 4, { ratio: 1.2 });
    expect(heard).toHaveBeenCalled();
    forget();
    const before = heard.mock.calls.length;
    await box.happened("dough.seen", 4, { ratio: 1.3 });
    expect(heard.mock.calls).toHaveLength(before);
  });
});
