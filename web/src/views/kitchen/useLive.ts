import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";

export type Reading = Schemas["ReadingOut"];

/** A run ends at a pause of 20 minutes, as the server counts it. */
const PAUSE_MS = 20 * 60_000;
const MOST = 2000;
const REFUSED_MS = 30_000;

function ms(reading: Reading): number {
  return Date.parse(reading.at);
}

/** Two lists of readings as one, by their moments, without what lies before the last long pause. */
export function joined(have: readonly Reading[], more: readonly Reading[]): Reading[] {
  const byMoment = new Map<number, Reading>();
  for (const reading of [...have, ...more])
    if (!byMoment.has(ms(reading))) byMoment.set(ms(reading), reading);
  const all = [...byMoment.values()].sort((a, b) => ms(a) - ms(b)).slice(-MOST);
  let from = 0;
  all.forEach((reading, i) => {
    const before = all[i - 1];
    if (before && ms(reading) - ms(before) > PAUSE_MS) from = i;
  });
  return all.slice(from);
}

/**
 * The newest run of an instrument, growing as readings come. The browser opens the line again by
 * itself after a restart of the server or a sleep, and asks from the last reading it saw.
 */
export function useLive(instrumentId: number): { readings: Reading[]; open: boolean; error: Error | null } {
  const run = useQuery({
    queryKey: ["live", instrumentId],
    queryFn: () =>
      answer(
        client.GET("/api/live/instruments/{instrument_id}/run", {
          params: { path: { instrument_id: instrumentId } },
        }),
      ),
    staleTime: 0,
  });
  const [fresh, setFresh] = useState<Reading[]>([]);
  const [open, setOpen] = useState(false);
  const { refetch } = run;
  useEffect(() => {
    let line: EventSource | null = null;
    let again: ReturnType<typeof setTimeout> | undefined;
    let opened = 0;
    const open = () => {
      line = new EventSource(`/api/live/instruments/${String(instrumentId)}/stream`);
      line.onopen = () => {
        setOpen(true);
        // What came while the line was down and no event id was known yet is in the run.
        if (opened++ > 0) void refetch();
      };
      line.onerror = () => {
        setOpen(false);
        // A line that was refused (too many are open) is not opened again by the browser itself.
        if (line?.readyState === EventSource.CLOSED) again = setTimeout(open, REFUSED_MS);
      };
      line.addEventListener("readings", (event: MessageEvent<string>) => {
        const more = JSON.parse(event.data) as Reading[];
        setFresh((was) => joined(was, more));
      });
    };
    open();
    return () => {
      clearTimeout(again);
      line?.close();
    };
  }, [instrumentId, refetch]);
  return { readings: joined(run.data?.readings ?? [], fresh), open, error: run.error };
}
