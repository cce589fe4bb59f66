import Dexie, { type Table } from "dexie";
import { dehydrate, hydrate, type DehydratedState, type QueryClient } from "@tanstack/react-query";

/** What a bake needs to open and go on without the server: who is in, what things are called, the bakes and their last answers. */
const KEPT = new Set(["session", "reference", "bakes", "bake", "bake-answer"]);
const AT_MOST_EVERY = 400;
/** Older than this nothing is worth opening, ms. */
const OLDEST = 24 * 3600_000;

class Database extends Dexie {
  kept!: Table<{ id: string; at: number; state: DehydratedState }, string>;

  constructor() {
    super("mattone-kept");
    this.version(1).stores({ kept: "id" });
  }
}

/** Brings back what was kept, and keeps it from now on. A device without room goes on without. */
export async function keepQueries(queries: QueryClient): Promise<void> {
  const database = new Database();
  const row = await database.kept.get("queries").catch(() => undefined);
  if (row && Date.now() - row.at < OLDEST) hydrate(queries, row.state);
  let timer: ReturnType<typeof setTimeout> | null = null;
  const write = () => {
    if (timer !== null) clearTimeout(timer);
    timer = null;
    const state = dehydrate(queries, {
      shouldDehydrateQuery: (query) => KEPT.has(String(query.queryKey[0])) && query.state.data !== undefined,
      shouldDehydrateMutation: () => false,
    });
    void database.kept
      .put({
        id: "queries",
        at: Date.now(),
        state: JSON.parse(JSON.stringify(state)) as DehydratedState,
      })
      .catch(() => null);
  };
  queries.getQueryCache().subscribe((event) => {
    if (KEPT.has(String(event.query.queryKey[0]))) timer ??= setTimeout(write, AT_MOST_EVERY);
  });
  // A page that is put away may not come back: what waits to be written is written now.
  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "hidden" && timer !== null) write();
  });
}

/** Nothing stays of a cook who left. */
export async function forgetKept(): Promise<void> {
  await new Database().kept.clear().catch(() => null);
}
