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
Object.assign(globalThis, { localStorage: shelf });

beforeEach(() => {
  shelf.rows.clear();
  shelf.full = false;
});
