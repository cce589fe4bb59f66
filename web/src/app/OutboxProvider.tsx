import { Button } from "../ui/Button";
import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { browserStore, type Happened } from "../api/eventStore";
import { Outbox } from "../api/outbox";
import { useUndo } from "./Undo";
import { OutboxContext, useOutbox } from "./useOutbox";

/** What is tried again of its own, ms. */
const TRY_EVERY = 5000;

/** Keeps and sends what happens; one a page. */
export function OutboxProvider({ owner, children }: { owner: string; children: ReactNode }) {
  const queries = useQueryClient();
  const [store] = useState(browserStore);
  const outbox = useMemo(() => new Outbox(owner, store), [owner, store]);
  useEffect(() => {
    const flush = () => {
      const before = outbox.waiting;
      void outbox.flush().then(() => {
        // What was told late changes what is shown.
        if (before > 0 && outbox.waiting < before)
          for (const key of ["supper", "suppers", "dough", "doughs", "next-step"])
            void queries.invalidateQueries({ queryKey: [key] });
      });
    };
    flush();
    const timer = setInterval(() => {
      if (outbox.waiting > 0) flush();
    }, TRY_EVERY);
    window.addEventListener("online", flush);
    document.addEventListener("visibilitychange", flush);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", flush);
      document.removeEventListener("visibilitychange", flush);
    };
  }, [outbox, queries]);
  return <OutboxContext.Provider value={outbox}>{children}</OutboxContext.Provider>;
}

const WHAT: Record<string, string> = {
  bake: "Bake",
  dough: "Dough",
  supper: "Timeline",
};

/** An event in words: which view, what, when. */
function inWords(event: Happened): string {
  const [view = "", what = ""] = event.kind.split(".");
  const at = new Date(event.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });
  return `${WHAT[view] ?? view}, ${what.replaceAll("_", " ")}, ${at}`;
}

/** Saves events as a file on this device. */
function exportEvents(events: readonly Happened[]) {
  const url = URL.createObjectURL(new Blob([JSON.stringify(events, null, 2)], { type: "application/json" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = "mattone-not-recorded.json";
  link.click();
  URL.revokeObjectURL(url);
}

/** Says what waits on this device, and what the server did not record. */
export function OutboxNotice() {
  const outbox = useOutbox();
  const offerUndo = useUndo();
  useSyncExternalStore(outbox.subscribe, () =>
    [outbox.waiting, outbox.full, ...outbox.rejected.map((one) => one.id)].join(" "),
  );
  const { waiting, full, rejected } = outbox;
  if (waiting === 0 && !full && rejected.length === 0) return null;
  return (
    <div role="status" className="border-b border-line bg-brick-wash px-4 py-1.5 text-[14px] print:hidden">
      {full ? (
        <p>
          This device has no room left. What you do is sent at once, and is lost if the server does not
          answer.
        </p>
      ) : null}
      {waiting > 0 ? (
        <p>
          {waiting === 1 ? "One entry is" : `${String(waiting)} entries are`} kept on this device until the
          server answers.
        </p>
      ) : null}
      {rejected.length > 0 ? (
        <div data-testid="rejected">
          <p>Mattone did not record the following. It is kept on this device:</p>
          <ul className="list-disc pl-5">
            {rejected.map((one) => (
              <li key={one.id}>
                {inWords(one)}: {one.rejected?.why}
              </li>
            ))}
          </ul>
          <p className="flex gap-4">
            <Button
              look="link"
              className="text-air"
              onClick={() => {
                exportEvents(rejected);
              }}
            >
              Export
            </Button>
            <Button
              look="link"
              className="text-air"
              onClick={() => {
                void outbox.discardRejected().then((putBack) => {
                  offerUndo({ text: "Discarded.", undo: () => void putBack() });
                });
              }}
            >
              Discard
            </Button>
          </p>
        </div>
      ) : null}
    </div>
  );
}
