import Dexie, { type Table } from "dexie";
import { lockerOwner, seal, unseal } from "./locker";

/** One thing that happened, as it is sent to the server: its id is made here, once. */
export interface Happened {
  id: string;
  owner: string;
  kind: string;
  subject_id: number;
  at: string;
  payload: Record<string, unknown>;
  ticks?: { run: string; ms: number };
  /** How far the clock was held to be off when it was kept, ms. */
  off?: number;
  /** Why the server did not record it, and which version of Mattone said so. */
  rejected?: { why: string; version: string };
}

/** Where the events are kept that the server has not recorded. */
export interface Store {
  put(event: Happened): Promise<unknown>;
  /** The oldest that wait to be sent. */
  oldest(owner: string, most: number): Promise<Happened[]>;
  /** Those that the server did not record, the oldest first. */
  rejected(owner: string): Promise<Happened[]>;
  remove(ids: readonly string[]): Promise<unknown>;
  /** How many wait to be sent. */
  count(owner: string): Promise<number>;
}

interface Row {
  id: string;
  owner: string;
  told: number;
  sealed?: Uint8Array;
}

class Database extends Dexie {
  happened!: Table<Row & Partial<Happened>, string>;

  constructor() {
    super("mattone-outbox");
    this.version(1).stores({ happened: "id, owner, told" });
  }
}

const sealedRow = (event: Happened, place: number): Row => ({
  id: event.id,
  owner: event.owner,
  told: place,
  sealed: seal(event),
});

/** The browser's own database. Events are encrypted with the key of the cook who is signed in. */
export function browserStore(): Store {
  const database = new Database();
  let turn = 0;
  const rows = async (owner: string): Promise<Happened[]> => {
    const found = await database.happened.where("owner").equals(owner).sortBy("told");
    // One that cannot be read now is left alone: it may be read again.
    return found.flatMap((row) => (row.sealed ? ((unseal(row.sealed) as Happened | null) ?? []) : []));
  };
  return {
    put: async (event) => {
      const before = await database.happened.get(event.id);
      await database.happened.put(sealedRow(event, before?.told ?? Date.now() + (turn++ % 1000) / 1000));
    },
    oldest: async (owner, most) => (await rows(owner)).filter((one) => !one.rejected).slice(0, most),
    rejected: async (owner) => (await rows(owner)).filter((one) => one.rejected),
    remove: (ids) => database.happened.bulkDelete([...ids]),
    count: async (owner) => (await rows(owner)).filter((one) => !one.rejected).length,
  };
}

/** Events that a page before 0.11 kept under the cook's address become this cook's, encrypted. */
export async function adoptEvents(email: string, owner: string): Promise<void> {
  if (lockerOwner() !== owner) return;
  const database = new Database();
  const plain = await database.happened
    .where("owner")
    .equals(email)
    .toArray()
    .catch(() => []);
  for (const { told, ...event } of plain) {
    if (!event.sealed) await database.happened.put(sealedRow({ ...(event as Happened), owner }, told));
  }
}

/** How many events of other cooks wait on this device, locked until they sign in. */
export async function lockedEvents(): Promise<number> {
  const owner = lockerOwner() ?? "";
  return new Database().happened
    .where("owner")
    .notEqual(owner)
    .count()
    .catch(() => 0);
}
