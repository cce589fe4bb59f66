import { describe, expect, it, vi } from "vitest";
import { Refusal } from "./client";
import { heardTime } from "../ui/clock";
import { browserStore, Outbox, type Happened, type Outcome, type Send, type Store } from "./outbox";

class Memory implements Store {
  rows: Happened[] = [];
  full = false;

  put(one: Happened) {
    if (this.full) return Promise.reject(new DOMException("no room", "QuotaExceededError"));
    this.rows.push(one);
    return Promise.resolve();
  }

  oldest(owner: string, most: number) {
    return Promise.resolve(this.rows.filter((one) => one.owner === owner).slice(0, most));
  }

  remove(ids: readonly string[]) {
    this.rows = this.rows.filter((one) => !ids.includes(one.id));
    return Promise.resolve();
  }

  count(owner: string) {
    return Promise.resolve(this.rows.filter((one) => one.owner === owner).length);
  }
}

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

const made = (store: Store = new Memory()) => {
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
    expect(box.refused).toEqual([]);
    server.away = false;
    await new Promise((resolve) => setTimeout(resolve, 15));
    await box.flush();
    expect(box.waiting).toBe(0);
    const told = [...server.counted.values()][0];
    expect(Math.abs(Date.parse(told?.at ?? "") - before)).toBeLessThan(12);
  });

  it("hears the server's time before it tells, and puts right what a wrong clock said", async () => {
    const store = new Memory();
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

  it("says what is refused, until it is read", async () => {
    const { server, box } = made();
    server.refuses = "This supper has no such step.";
    expect((await box.happened("supper.done", 1, { step: "dance" }))?.state).toBe("refused");
    expect(box.refused).toEqual(["This supper has no such step."]);
    box.read();
    expect(box.refused).toEqual([]);
    expect(box.waiting).toBe(0);
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
    const store = new Memory();
    const box = new Outbox("keeper", store, () => Promise.reject(new Refusal(401, "", "Sign in first.")));
    expect(await box.happened("dough.seen", 4, { ratio: 1.2 })).toBeNull();
    expect(store.rows).toHaveLength(1);
    expect(box.refused).toEqual([]);
  });

  it("a batch that the server will never take is said and let go", async () => {
    const store = new Memory();
    const box = new Outbox("keeper", store, () =>
      Promise.reject(new Refusal(422, "events.0.at", "is not a time.")),
    );
    await box.happened("dough.seen", 4, { ratio: 1.2 });
    expect(store.rows).toHaveLength(0);
    expect(box.refused).toEqual(["is not a time."]);
  });

  it("a device without room tells at once, and says so", async () => {
    const store = new Memory();
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

describe("the browser's own store", () => {
  it("keeps things over a reload, the oldest first, each cook's apart", async () => {
    const first = browserStore();
    const one = (id: string, owner: string): Happened => ({
      id,
      owner,
      kind: "k",
      subject_id: 1,
      at: "t",
      payload: { id },
    });
    for (const id of ["c", "a", "b"]) await first.put(one(id, "keeper"));
    await first.put(one("z", "mate"));
    const again = browserStore();
    expect((await again.oldest("keeper", 2)).map((row) => row.id)).toEqual(["c", "a"]);
    expect((await again.oldest("keeper", 9))[0]).toEqual(one("c", "keeper"));
    await again.remove(["c", "b"]);
    expect(await again.count("keeper")).toBe(1);
    expect(await again.count("mate")).toBe(1);
    // Put twice under one id it is there once.
    await again.put(one("a", "keeper"));
    expect(await again.count("keeper")).toBe(1);
  });
});
