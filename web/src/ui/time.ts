import { Temporal } from "temporal-polyfill";

/** m:ss under ten minutes, else whole minutes. */
export function bakeTime(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const sign = seconds < 0 && whole > 0 ? "−" : "";
  if (whole >= 600) return `${sign}${String(Math.round(whole / 60))} min`;
  return `${sign}${String(Math.floor(whole / 60))}:${String(whole % 60).padStart(2, "0")}`;
}

/** m:ss at any length, for axes where neighbours must differ. */
export function axisTime(seconds: number): string {
  return `${String(Math.floor(seconds / 60))}:${String(Math.round(seconds % 60)).padStart(2, "0")}`;
}

/** Clock time `offset` seconds after hh:mm. */
export function clockAfter(clock: string, offset: number): string {
  const [h = 0, m = 0] = clock.split(":").map(Number);
  const total = (((h * 60 + m + Math.round(offset / 60)) % 1440) + 1440) % 1440;
  return `${String(Math.floor(total / 60)).padStart(2, "0")}:${String(total % 60).padStart(2, "0")}`;
}

/** A moment of the supper's own clock, read from its text: 2026-11-28T19:30+00:00 is 19:30. */
export function clock(at: string): string {
  return at.slice(11, 16);
}

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];

/** The weekday of a local date. */
export function day(at: string): string {
  return DAYS[new Date(`${at.slice(0, 10)}T12:00:00Z`).getUTCDay()] ?? "";
}

export function dayAndClock(at: string): string {
  return `${day(at)} ${clock(at)}`;
}

/** Minutes since the epoch: real time, whatever the clocks do. */
export function minuteOf(at: string): number {
  return new Date(at).getTime() / 60_000;
}

/** The local text of a moment `minutes` of real time away from another, by the clocks of a zone. */
export function moved(at: string, minutes: number, zone: string): string {
  return localOf(Temporal.Instant.from(at).add({ minutes: Math.round(minutes) }), zone);
}

/** The browser's own time zone, as the engine names zones. */
export const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** The local time now in a zone, as a date-and-time field has it. */
export function nowIn(zone: string): string {
  return localOf(Temporal.Now.instant(), zone);
}

/** So many days from a local date. */
export function dayFrom(at: string, days: number): string {
  return Temporal.PlainDate.from(at.slice(0, 10)).add({ days }).toString();
}

function localOf(moment: Temporal.Instant, zone: string): string {
  return moment.toZonedDateTimeISO(zone).toPlainDateTime().toString({ smallestUnit: "minute" });
}

/** Whole hours of a zone's clocks between two minutes since the epoch, every so many from midnight: when, and what they say. */
export function hoursBetween(
  fromMin: number,
  toMin: number,
  every: number,
  zone: string,
): { at: number; text: string }[] {
  const first = Temporal.Instant.fromEpochMilliseconds(Math.round(fromMin) * 60_000);
  let local = first.toZonedDateTimeISO(zone).startOfDay().toPlainDateTime();
  const found = [];
  for (;;) {
    const at = Number(local.toZonedDateTime(zone).epochMilliseconds) / 60_000;
    if (at >= toMin) return found;
    if (at >= fromMin) found.push({ at, text: local.toString({ smallestUnit: "minute" }) });
    local = local.add({ hours: every });
  }
}

/** Minutes as a cook says them: 45 min, 1 h 30, 46 h. */
export function spell(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${String(whole)} min`;
  const rest = whole % 60;
  return rest
    ? `${String(Math.floor(whole / 60))} h ${String(rest).padStart(2, "0")}`
    : `${String(whole / 60)} h`;
}

/** The same of hours. */
export function hoursSaid(hours: number): string {
  return spell(hours * 60);
}

const SAME_YEAR = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const OTHER_YEAR = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

/** A day by this device's clock: 14 Nov, with its year where it is not this one. */
export function dateOf(at: string, now = new Date()): string {
  const day = new Date(at);
  return (day.getFullYear() === now.getFullYear() ? SAME_YEAR : OTHER_YEAR).format(day);
}
