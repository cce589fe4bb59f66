import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "./client";
import { heardTime } from "../ui/clock";
import { adoptEvents, browserStore, lockedEvents, type Happened, type Store } from "./eventStore";
import { closeLocker, openLocker } from "./locker";
import { Outbox, type Outcome, type Send } from "./outbox";

class Memory implements Store {
  rows: Happened[] = [];
  full = false;

  put(one: Happened) {
    if (this.full) return Promise.reject(new DOMException("no room", "QuotaExceededError"));
    const at = this.rows.findIndex((row) => row.id === one.id);
    if (at < 0) this.rows.push(one);
    else this.rows[at] = one;
    return Promise.resolve();
  }

  private of(owner: string, rejected: boolean) {
    return this.rows.filter((one) => one.owner === owner && Boolean(one.rejected) === rejected);
  }

  oldest(owner: string, most: number) {
    return Promise.resolve(this.of(owner, false).slice(0, most));
  }

  rejected(owner: string) {
    return Promise.resolve(this.of(owner, true));
  }

  remove(ids: readonly string[]) {
    this.rows = this.rows.filter((one) => !ids.includes(one.id));
    return Promise.resolve();
  }

  count(owner: string) {
    return Promise.resolve(this.of(owner, false).length);
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
    expect(box.rejected).toEqual([]);
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
      new Memory(),
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
    const store = new Memory();
    const box = new Outbox("keeper", store, () => Promise.reject(new Refusal(401, "", "Sign in first.")));
    expect(await box.happened("dough.seen", 4, { ratio: 1.2 })).toBeNull();
    expect(store.rows).toHaveLength(1);
    expect(box.rejected).toEqual([]);
  });

  it("finds the bad one of a batch and keeps it alone", async () => {
    const store = new Memory();
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
    const store = new Memory();
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
      const store = new Memory();
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

describe("the browser's own store", () => {
  beforeEach(() => {
    openLocker("keeper", "keeper@skerry-light.example", "ab".repeat(32));
  });
  afterEach(() => {
    closeLocker();
  });

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
    openLocker("mate", "mate@skerry-light.example", "cd".repeat(32));
    await first.put(one("z", "mate"));
    openLocker("keeper", "keeper@skerry-light.example", "ab".repeat(32));
    const again = browserStore();
    expect((await again.oldest("keeper", 2)).map((row) => row.id)).toEqual(["c", "a"]);
    expect((await again.oldest("keeper", 9))[0]).toEqual(one("c", "keeper"));
    await again.remove(["c", "b"]);
    expect(await again.count("keeper")).toBe(1);
    // Another cook's can be counted, and not read.
    expect(await lockedEvents()).toBe(1);
    expect(await again.oldest("mate", 9)).toEqual([]);
    // Put twice under one id it is there once.
    await again.put(one("a", "keeper"));
    expect(await again.count("keeper")).toBe(1);
  });

  it("holds nothing that can be read, and gives it back when its cook signs in again", async () => {
    const store = browserStore();
    await store.put({
      id: "secret",
      owner: "keeper",
      kind: "k",
      subject_id: 1,
      at: "t",
      payload: { note: "relief boat" },
    });
    const database = await new Promise<IDBDatabase>((resolve, reject) => {
      const opening = indexedDB.open("mattone-outbox");
      opening.onsuccess = () => {
        resolve(opening.result);
      };
      opening.onerror = () => {
        reject(new Error("not opened"));
      };
    });
    const rows = await new Promise<unknown[]>((resolve) => {
      const all = database.transaction("happened").objectStore("happened").getAll();
      all.onsuccess = () => {
        resolve(all.result as unknown[]);
      };
    });
    database.close();
    expect(rows.length).toBeGreaterThan(0);
    const text = JSON.stringify(rows, (_, value: unknown) =>
      value instanceof Uint8Array ? String.fromCharCode(...value) : value,
    );
    expect(text).not.toContain("relief boat");
    closeLocker();
    expect(await store.oldest("keeper", 99)).toEqual([]);
    openLocker("keeper", "keeper@skerry-light.example", "ab".repeat(32));
    expect((await store.oldest("keeper", 99)).map((row) => row.id)).toContain("secret");
  });

  it("takes over what a page before 0.11 kept in the open under the cook's address", async () => {
    const opening = indexedDB.open("mattone-outbox");
    const database = await new Promise<IDBDatabase>((resolve) => {
      opening.onsuccess = () => {
        resolve(opening.result);
      };
    });
    const legacy = {
      id: "old",
      owner: "keeper@skerry-light.example",
      kind: "bake.launched",
      subject_id: 3,
      at: "t",
      payload: {},
    };
    const put = database.transaction("happened", "readwrite").objectStore("happened");
    put.put({ ...legacy, told: 1 });
    put.put({ ...legacy, id: "mates", owner: "mate@skerry-light.example", told: 2 });
    database.close();
    await adoptEvents("keeper@skerry-light.example", "keeper");
    const found = await browserStore().oldest("keeper", 99);
    expect(found[0]).toEqual({ ...legacy, owner: "keeper" });
    expect(found.map((row) => row.id)).not.toContain("mates");
  });
});
