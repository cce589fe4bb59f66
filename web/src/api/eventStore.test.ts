import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { adoptEvents, browserStore, lockedEvents, type Happened } from "./eventStore";
import { closeLocker, openLocker } from "./locker";

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
