import { Button } from "../ui/Button";
import { useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { browserStore, Outbox } from "../api/outbox";
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

/** Says what waits on this device, and what the server would not take. */
export function OutboxNotice() {
  const outbox = useOutbox();
  const told = useSyncExternalStore(outbox.subscribe, () =>
    [outbox.waiting, outbox.full, ...outbox.refused].join("\n"),
  );
  const [waiting = "0", full, ...refused] = told.split("\n");
  if (waiting === "0" && full === "false" && refused.length === 0) return null;
  return (
    <div role="status" className="border-b border-line bg-brick-wash px-4 py-1.5 text-[14px] print:hidden">
      {full === "true" ? (
        <p>
          This device has no room left: what you do is sent at once, and lost where the server does not
          answer.
        </p>
      ) : null}
      {waiting !== "0" ? (
        <p>
          {waiting === "1" ? "One thing you did is" : `${waiting} things you did are`} kept on this device
          until the server answers.
        </p>
      ) : null}
      {refused.map((text, i) => (
        <p key={i}>{text}</p>
      ))}
      {refused.length > 0 ? (
        <Button
          look="link"
          className="text-air"
          onClick={() => {
            outbox.read();
          }}
        >
          I have read it
        </Button>
      ) : null}
    </div>
  );
}
