import type { Happened, Store } from "../eventStore";

/** For tests: events kept in memory; `full` has no room. */
export class MemoryStore implements Store {
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
