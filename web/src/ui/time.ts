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

/** Minutes by which a moment's own clock is ahead of universal time. */
export function offsetMin(at: string): number {
  const offset = /([+-])(\d\d):(\d\d)$/.exec(at);
  return offset ? (offset[1] === "-" ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3])) : 0;
}

/** The local text of a moment `minutes` away from one the engine told, by that one's own offset. */
export function moved(at: string, minutes: number): string {
  const local = new Date((minuteOf(at) + minutes + offsetMin(at)) * 60_000);
  return local.toISOString().slice(0, 16);
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
