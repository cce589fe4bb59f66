/**
 * The clock that bakes go by. A device whose own clock is wrong goes by the server's, as its last answer told it; a virtual evening by a
 * clock of its own, which runs faster.
 */
interface Virtual {
  /** The evening's time when it began, and the device's, ms; and how many times as fast it goes. */
  fromMs: number;
  begunMs: number;
  speed: number;
}

const OFFSET = "mattone-clock-offset";
const VIRTUAL = "mattone-virtual-evening";
/** A clock that is off by less is right enough. */
const WRONG_MS = 10_000;
/** An answer that took longer tells when it was begun, not what time it is. */
const PROMPT_MS = 1500;

function number(text: string | null): number {
  const value = Number(text);
  return Number.isFinite(value) ? value : 0;
}

/** This opening of the page: what its own ticks are counted in. */
const run = typeof crypto === "undefined" ? "" : crypto.randomUUID();
let heard = false;

let offsetMs = number(typeof localStorage === "undefined" ? null : localStorage.getItem(OFFSET));

/** How far the device's clock lies behind what a server's answer says, ms; 0 where it is right. */
export function offsetOf(serverMs: number, deviceMs: number): number {
  const off = serverMs - deviceMs;
  return Number.isFinite(off) && Math.abs(off) > WRONG_MS ? off : 0;
}

/** An answer told the server's time, so long after it was asked for, ms. */
export function heardTime(date: string | null, tookMs: number): void {
  if (!date || tookMs > PROMPT_MS) return;
  heard = true;
  // It tells whole seconds: half of one is added, so that it is right in the mean.
  const found = offsetOf(Date.parse(date) + 500, Date.now());
  if ((found === 0) === (offsetMs === 0) && Math.abs(found - offsetMs) < WRONG_MS) return;
  offsetMs = found;
  localStorage.setItem(OFFSET, String(found));
}

/** A virtual evening's clock from its address: `?evening=from,begun,speed`. */
export function virtualOf(query: string): Virtual | null {
  const [fromMs = NaN, begunMs = NaN, speed = NaN] = (new URLSearchParams(query).get("evening") ?? "")
    .split(",")
    .map(Number);
  return fromMs > 0 && begunMs > 0 && speed >= 1 && speed <= 60 ? { fromMs, begunMs, speed } : null;
}

function kept(): Virtual | null {
  if (typeof sessionStorage === "undefined" || typeof location === "undefined") return null;
  const told = virtualOf(location.search);
  if (told) sessionStorage.setItem(VIRTUAL, location.search);
  return told ?? virtualOf(sessionStorage.getItem(VIRTUAL) ?? "");
}

const virtual = kept();

/** How many times as fast as a clock on the wall this evening goes; 1 is a real one. */
export const evenings = virtual?.speed ?? 1;

/** The present moment, ms since the epoch. */
export function nowMs(): number {
  if (virtual) return virtual.fromMs + (Date.now() - virtual.begunMs) * virtual.speed;
  return Date.now() + offsetMs;
}

/** Whether the server has told its time since the page was opened. */
export function timeHeard(): boolean {
  return heard;
}

/** How far the device's clock is held to be off, ms: told with what is kept, so that it can be put right when more is known. */
export function heldOffMs(): number {
  return virtual ? 0 : offsetMs;
}

/** A moment told while the clock was held to be off by so much, as it is held now, ms. */
export function putRightMs(atMs: number, offMs: number): number {
  return virtual ? atMs : atMs - offMs + offsetMs;
}

/** A moment by the clock that never goes back, ms since the page was opened. */
export function ticksAt(atMs: number): { run: string; ms: number } {
  return { run, ms: Math.round(performance.now() * evenings - (nowMs() - atMs)) };
}
