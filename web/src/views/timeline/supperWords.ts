import { day, dayFrom, nowIn } from "../../ui/time";
import type { Words } from "./types";

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Sat 28 Nov. */
export function dayName(at: string): string {
  return `${day(at)} ${String(Number(at.slice(8, 10)))} ${MONTHS[Number(at.slice(5, 7)) - 1] ?? ""}`;
}

/** The days a supper can be on: from today as far as it can be planned, and the one it is on. */
export function daysToChoose(at: string, zone: string) {
  const today = nowIn(zone).slice(0, 10);
  const dates = Array.from({ length: 9 }, (_, i) => dayFrom(today, i));
  if (!dates.includes(at.slice(0, 10))) dates.unshift(at.slice(0, 10));
  return dates.map((date) => ({
    value: date,
    label: dayName(date),
    ...(date === today ? { note: "today" } : {}),
  }));
}

/** An offer's changes in the supper's own words. */
export function taken(changes: Record<string, string | boolean | number | null>): Partial<Words> {
  const to: Record<string, string | boolean | number | null> = {};
  for (const [key, value] of Object.entries(changes)) {
    if (key === "own_steps") continue;
    to[key] = key === "serve_at" && typeof value === "string" ? value.slice(0, 16) : value;
    if (key === "yeast_pct") to.yeast = "solve";
    if (key === "hours_give_way") {
      delete to.hours_give_way;
      to.yeast = "keep";
    }
  }
  return to as Partial<Words>;
}
