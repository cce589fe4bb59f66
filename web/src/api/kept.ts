import Dexie, { type Table } from "dexie";
import { dehydrate, hydrate, type DehydratedState, type QueryClient } from "@tanstack/react-query";
import { lockerOwner, seal, unseal } from "./locker";

/** Who is signed in on this device. */
export interface Session {
  email: string;
  /** The cook's stable name on the server. */
  owner: string;
  /** What the cook's things on this device are encrypted with, hex. */
  device_key: string;
}

/** What a bake needs to open and go on without the server: what things are called, the bakes and their last answers. */
const KEPT = new Set(["reference", "bakes", "bake", "bake-answer"]);
const AT_MOST_EVERY = 400;
/** Older than this nothing is worth opening, ms. */
const OLDEST = 24 * 3600_000;

class Database extends Dexie {
  who!: Table<Session & { id: string }, string>;
  answers!: Table<{ owner: string; at: number; sealed: Uint8Array }, string>;
  /** Before 0.11: readable by whoever opened the page. */
  kept!: Table<{ id: string; state?: DehydratedState }, string>;

  constructor() {
    super("mattone-kept");
    this.version(1).stores({ kept: "id" });
    this.version(2).stores({ kept: "id", who: "id", answers: "owner" });
  }
}

/** The cook who was signed in when the page was last open here; their key is on this device only as long. */
export async function rememberedSession(): Promise<Session | null> {
  const row = await new Database().who.get("who").catch(() => undefined);
  if (!row) return null;
  const { id, ...session } = row;
  return session;
}

export async function rememberSession(session: Session): Promise<void> {
  await new Database().who.put({ id: "who", ...session }).catch(() => null);
}

/** Nobody is signed in here any more: the key and all answers leave the device. */
export async function forgetSession(): Promise<void> {
  const database = new Database();
  await Promise.all([database.who.clear(), database.answers.clear()]).catch(() => null);
}

/** The address of the cook whose answers a page before 0.11 left here; what it left is removed. */
export async function takeLegacyEmail(): Promise<string | null> {
  const database = new Database();
  const row = await database.kept.get("queries").catch(() => undefined);
  if (!row) return null;
  await database.kept.clear().catch(() => null);
  const email: unknown = row.state?.queries.find((one) => one.queryKey[0] === "session")?.state.data;
  return typeof email === "string" ? email : null;
}

/** Brings back the answers that the signed-in cook had. */
export async function recallAnswers(queries: QueryClient): Promise<void> {
  const owner = lockerOwner();
  const row = owner ? await new Database().answers.get(owner).catch(() => undefined) : undefined;
  if (!row || Date.now() - row.at > OLDEST) return;
  const state = unseal(row.sealed) as DehydratedState | null;
  if (state) hydrate(queries, state);
}

/** Keeps the answers of whoever is signed in, encrypted. A device without room goes on without. */
export function keepAnswers(queries: QueryClient): void {
  const database = new Database();
  let timer: ReturnType<typeof setTimeout> | null = null;
  const write = () => {
    if (timer !== null) clearTimeout(timer);
    timer = null;
    const owner = lockerOwner();
    if (!owner) return;
    const state = dehydrate(queries, {
      shouldDehydrateQuery: (query) => KEPT.has(String(query.queryKey[0])) && query.state.data !== undefined,
      shouldDehydrateMutation: () => false,
    });
    void database.answers.put({ owner, at: Date.now(), sealed: seal(state) }).catch(() => null);
  };
  queries.getQueryCache().subscribe((event) => {
    if (KEPT.has(String(event.query.queryKey[0]))) timer ??= setTimeout(write, AT_MOST_EVERY);
  });
  // A page that is put away may not come back: what waits to be written is written now.
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "hidden" && timer !== null) write();
  });
}
