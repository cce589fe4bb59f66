import { useEffect, useState } from "react";

/** The present moment in minutes since the epoch, looked at again every so many seconds. */
export function useNow(everyS: number): number {
  const [now, setNow] = useState(() => Date.now() / 60_000);
  useEffect(() => {
    const timer = setInterval(() => {
      setNow(Date.now() / 60_000);
    }, everyS * 1000);
    return () => {
      clearInterval(timer);
    };
  }, [everyS]);
  return now;
}
