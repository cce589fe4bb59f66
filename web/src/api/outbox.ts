import Dexie, { type Table } from "dexie";
import { heldOffMs, nowMs, putRightMs, ticksAt, timeHeard } from "../ui/clock";
import { answer, client, Refusal } from "./client";

/** One thing that happened, as it is told to the server: its id is made here, once. */
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
}

/** What is told of it: its time by what is known of this device's clock by now. */
function putRight({ off = 0, ...one }: Happened): Happened {
  const at = Date.parse(one.at);
  const right = putRightMs(at, off);
  return right === at ? { ...one, off } : { ...one, at: new Date(right).toISOString(), off: heldOffMs() };
}

export interface Outcome {
  id: string;
  state: "taken" | "known" | "refused";
  message?: string;
}

/** Where what the server has not yet taken is kept. */
export interface Store {
  put(one: Happened): Promise<unknown>;
  oldest(owner: string, most: number): Promise<Happened[]>;
  remove(ids: readonly string[]): Promise<unknown>;
  count(owner: string): Promise<number>;
}

class Database extends Dexie {
  happened!: Table<Happened & { told: number }, string>;

  constructor() {
    super("mattone-outbox");
    this.version(1).stores({ happened: "id, owner, told" });
  }
}

/** The browser's own database; opened when it is first needed. */
export function browserStore(): Store {
  const database = new Database();
  let turn = 0;
  return {
    put: (one) => database.happened.put({ ...one, told: Date.now() + (turn++ % 1000) / 1000 }),
    oldest: async (owner, most) => {
      const rows = await database.happened.where("owner").equals(owner).sortBy("told");
      return rows.slice(0, most).map(({ told, ...one }) => one);
    },
    remove: (ids) => database.happened.bulkDelete([...ids]),
    count: (owner) => database.happened.where("owner").equals(owner).count(),
  };
}

export type Told = Omit<Happened, "owner" | "off">;
export type Send = (events: Told[]) => Promise<Outcome[]>;

const sendToServer: Send = async (events) =>
  (await answer(client.POST("/api/events", { body: { events } }))).events;

/** The server's time is asked for before the first thing is told: a wrong clock's moments would be refused, or be believed. */
async function hearTime(): Promise<void> {
  if (!timeHeard()) await client.GET("/api/bakes/under-way").catch(() => null);
}

const BATCH = 50;
const REMEMBERED = 200;

/** What one cook did, kept on this device until the server has taken it. */
export class Outbox {
  waiting = 0;
  /** What the server would not take, in words, until the cook has read it. */
  refused: string[] = [];
  /** The device has no room: what happens now is told at once, or not at all. */
  full = false;
  private listeners = new Set<() => void>();
  private flushing: Promise<void> | null = null;
  private again = false;
  private outcomes = new Map<string, Outcome>();

  constructor(
    readonly owner: string,
    private readonly store: Store,
    private readonly send: Send = sendToServer,
    private readonly hear: () => Promise<void> = hearTime,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private changed() {
    for (const listener of this.listeners) listener();
  }

  /** Something happened, now or at a moment: kept first, then told. Resolves with what became of it, or null while it waits. */
  async happened(
    kind: string,
    subject_id: number,
    payload: Record<string, unknown>,
    atMs = nowMs(),
  ): Promise<Outcome | null> {
    const one: Happened = {
      id: crypto.randomUUID(),
      owner: this.owner,
      kind,
      subject_id,
      at: new Date(atMs).toISOString(),
      payload,
      ticks: ticksAt(atMs),
      off: heldOffMs(),
    };
    try {
      await this.store.put(one);
      this.full = false;
      // Drawn at once; what the server says of it comes later.
      this.changed();
    } catch {
      this.full = true;
      this.changed();
      return (await this.tell([one]))[0] ?? null;
    }
    await this.flush();
    return this.outcomes.get(one.id) ?? null;
  }

  /** Whether the server would not take it. */
  wasRefused(id: string): boolean {
    return this.outcomes.get(id)?.state === "refused";
  }

  /** What waits on this device about one thing. */
  async waitingOf(subject_id: number): Promise<Happened[]> {
    const rows = await this.store.oldest(this.owner, 1000).catch(() => []);
    return rows.filter((one) => one.subject_id === subject_id).map(putRight);
  }

  /** Tell the server whatever waits, the oldest first; what it has taken is let go. */
  async flush(): Promise<void> {
    this.again = true;
    this.flushing ??= this.run().finally(() => {
      this.flushing = null;
    });
    await this.flushing;
  }

  private async run() {
    do {
      this.again = false;
      for (;;) {
        const rows = await this.store.oldest(this.owner, BATCH);
        if (rows.length === 0) break;
        let outcomes: Outcome[];
        try {
          outcomes = await this.tell(rows);
        } catch (problem) {
          await this.recount();
          // Away or busy: it waits. Anything else would be refused for ever: it is said and let go.
          if (
            problem instanceof Refusal &&
            problem.status >= 400 &&
            problem.status < 500 &&
            ![401, 403, 429].includes(problem.status)
          ) {
            this.refused = [...this.refused, problem.message];
            await this.store.remove(rows.map((one) => one.id));
            continue;
          }
          return;
        }
        for (const one of outcomes) this.outcomes.set(one.id, one);
        for (const id of [...this.outcomes.keys()].slice(0, -REMEMBERED)) this.outcomes.delete(id);
        await this.store.remove(rows.map((one) => one.id));
      }
    } while (this.again);
    await this.recount();
  }

  private async tell(rows: Happened[]): Promise<Outcome[]> {
    await this.hear();
    const outcomes = await this.send(rows.map(putRight).map(({ owner, off, ...told }) => told));
    const said = outcomes
      .filter((one) => one.state === "refused")
      .map((one) => one.message ?? "It was not taken.");
    if (said.length) this.refused = [...this.refused, ...said];
    return outcomes;
  }

  private async recount() {
    this.waiting = await this.store.count(this.owner).catch(() => this.waiting);
    this.changed();
  }

  /** The cook has read what was refused. */
  read() {
    this.refused = [];
    this.changed();
  }
}
