import "fake-indexeddb/auto";
import { beforeEach } from "vitest";

/** A browser's own small store, as far as the page's logic uses it. `full` refuses what is put in. */
class Shelf {
  rows = new Map<string, string>();
  full = false;

  getItem(key: string): string | null {
    return this.rows.get(key) ?? null;
  }

  setItem(key: string, value: string): void {
    if (this.full) throw new DOMException("no room", "QuotaExceededError");
    this.rows.set(key, value);
  }

  removeItem(key: string): void {
    this.rows.delete(key);
  }
}

export const shelf = new Shelf();
/** As the browser's own: what is kept are its keys. */
const storage = new Proxy(shelf, {
  ownKeys: (target) => [...target.rows.keys()],
  getOwnPropertyDescriptor: (target, key) =>
    target.rows.has(String(key)) ? { enumerable: true, configurable: true } : undefined,
  get: (target, key) => {
    const value: unknown = Reflect.get(target, key);
    return typeof value === "function" ? (value as () => unknown).bind(target) : value;
  },
});
Object.assign(globalThis, { localStorage: storage });

/** A page's requests have its own address. */
const NativeRequest = globalThis.Request;
globalThis.Request = class extends NativeRequest {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" && input.startsWith("/") ? `http://mattone.test${input}` : input, init);
  }
};

beforeEach(() => {
  shelf.rows.clear();
  shelf.full = false;
});
