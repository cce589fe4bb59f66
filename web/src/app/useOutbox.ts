import { createContext, useContext } from "react";
import type { Outbox } from "../api/outbox";

export const OutboxContext = createContext<Outbox | null>(null);

/** What happens is told through this. */
export function useOutbox(): Outbox {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error("there is no outbox around this view");
  return outbox;
}
