import { heldOffMs, nowMs, putRightMs, ticksAt, timeHeard } from "../ui/clock";
import { answer, client, Refusal } from "./client";
import { type Happened, type Store } from "./eventStore";
import { serverVersion } from "./version";

/** An event with its time put right by what is known of this device's clock by now. */
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

/** An event as it is sent. */
export type SentEvent = Omit<Happened, "owner" | "off" | "rejected">;
export type Send = (events: SentEvent[]) => Promise<Outcome[]>;

const sendToServer: Send = async (events) =>
  (await answer(client.POST("/api/events", { body: { events } }))).events;

/** The server's time is asked for before the first thing is told: a wrong clock's moments would be refused, or be believed. */
async function hearTime(): Promise<void> {
  if (!timeHeard()) await client.GET("/api/bakes/under-way").catch(() => null);
}

const BATCH = 50;
const REMEMBERED = 200;
/** What is wrong with one event and not with the connection, the session or the address: the server will never record it as it is. */
const VERDICTS = new Set([400, 413, 422]);

function isVerdict(problem: unknown): problem is Refusal {
  return problem instanceof Refusal && VERDICTS.has(problem.status);
}

/** What one cook did, kept on this device until the server has recorded it. Nothing is dropped: what the server rejects stays until the cook discards it. */
export class Outbox {
  waiting = 0;
  /** What the server did not record, with its reason. */
  rejected: Happened[] = [];
  /** The device has no room: what happens now is sent at once, or not at all. */
  full = false;
  /** Rejected events that this device has no room for. */
  private unkept: Happened[] = [];
  private listeners = new Set<() => void>();
  private flushing: Promise<void> | null = null;
  private again = false;
  private outcomes = new Map<string, Outcome>();

  constructor(
    readonly owner: string,
    private readonly store: Store,
    private readonly send: Send = sendToServer,
    private readonly hear: () => Promise<void> = hearTime,
    private readonly version: () => string = serverVersion,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private changed() {
    for (const listener of this.listeners) listener();
  }

  /** Something happened, now or at a moment: kept first, then sent. Resolves with what became of it, or null while it waits. */
  async happened(
    kind: string,
    subject_id: number,
    payload: Record<string, unknown>,
    atMs = nowMs(),
  ): Promise<Outcome | null> {
    const event: Happened = {
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
      await this.store.put(event);
      this.full = false;
      // Drawn at once; what the server says of it comes later.
      this.changed();
    } catch {
      this.full = true;
      this.changed();
      return await this.sentUnkept(event);
    }
    await this.flush();
    return this.outcomes.get(event.id) ?? null;
  }

  /** Sends an event that this device has no room for. */
  private async sentUnkept(event: Happened): Promise<Outcome | null> {
    const outcome = (await this.sent([event]))[0] ?? null;
    if (outcome?.state === "refused") {
      const rejected = { why: outcome.message ?? "It was not recorded.", version: this.version() };
      this.unkept = [...this.unkept, { ...event, rejected }];
      await this.recount();
    }
    return outcome;
  }

  /** Whether the server would not record it. */
  wasRefused(id: string): boolean {
    return this.outcomes.get(id)?.state === "refused" || this.rejected.some((one) => one.id === id);
  }

  /** What waits on this device about one thing. */
  async waitingOf(subject_id: number): Promise<Happened[]> {
    const rows = await this.store.oldest(this.owner, 1000).catch(() => []);
    return rows.filter((one) => one.subject_id === subject_id).map(putRight);
  }

  /** Send whatever waits, the oldest first; what the server has recorded is let go. */
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
      await this.retryRejected();
      let most = BATCH;
      for (;;) {
        const rows = await this.store.oldest(this.owner, most);
        if (rows.length === 0) break;
        try {
          if (!(await this.settle(rows, await this.sent(rows)))) break;
        } catch (problem) {
          if (!isVerdict(problem)) {
            // Away, busy, signed out, or another server than this page's: everything waits.
            await this.recount();
            return;
          }
          // One of them is bad. It is found by sending each alone.
          if (rows.length > 1) most = 1;
          else await this.reject(rows, problem.message);
        }
      }
    } while (this.again);
    await this.recount();
  }

  /** Lets go of what was recorded and keeps what was refused; false where the answer said nothing of any of them. */
  private async settle(rows: Happened[], outcomes: Outcome[]): Promise<boolean> {
    const byId = new Map(outcomes.map((one) => [one.id, one]));
    const judged = rows.filter((one) => byId.has(one.id));
    for (const row of judged) {
      const outcome = byId.get(row.id);
      if (outcome) this.outcomes.set(row.id, outcome);
      if (outcome?.state === "refused") await this.reject([row], outcome.message ?? "It was not recorded.");
    }
    for (const id of [...this.outcomes.keys()].slice(0, -REMEMBERED)) this.outcomes.delete(id);
    await this.store.remove(
      judged.filter((one) => byId.get(one.id)?.state !== "refused").map((one) => one.id),
    );
    return judged.length > 0;
  }

  private async reject(rows: Happened[], why: string) {
    for (const row of rows) await this.store.put({ ...row, rejected: { why, version: this.version() } });
  }

  /** What another version of Mattone did not record is sent once more: a newer one may. */
  private async retryRejected() {
    const version = this.version();
    for (const { rejected, ...event } of await this.store.rejected(this.owner).catch(() => []))
      if (version !== "" && rejected?.version !== version) await this.store.put(event);
  }

  private async sent(rows: Happened[]): Promise<Outcome[]> {
    await this.hear();
    return await this.send(rows.map(putRight).map(({ owner, off, rejected, ...event }) => event));
  }

  private async recount() {
    this.waiting = await this.store.count(this.owner).catch(() => this.waiting);
    const kept = await this.store.rejected(this.owner).catch(() => this.rejected);
    this.rejected = [...kept, ...this.unkept.filter((one) => !kept.some((row) => row.id === one.id))];
    this.changed();
  }

  /** The cook discards what was not recorded; gives what puts it back. */
  async discardRejected(): Promise<() => Promise<void>> {
    const rows = this.rejected;
    this.unkept = [];
    await this.store.remove(rows.map((one) => one.id));
    await this.recount();
    return async () => {
      for (const row of rows) await this.store.put(row);
      await this.recount();
    };
  }
}
