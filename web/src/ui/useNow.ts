import { useEffect, useState } from "react";
import { nowMs } from "./clock";

/** The present moment in minutes since the epoch, looked at again every so many seconds. */
export function useNow(everyS: number): number {
  const [now, setNow] = useState(() => nowMs() / 60_000);
  useEffect(() => {
    const timer = setInterval(() => {
      setNow(nowMs() / 60_000);
    }, everyS * 1000);
    return () => {
      clearInterval(timer);
    };
  }, [everyS]);
  return now;
}
