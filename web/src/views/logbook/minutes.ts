/** Seconds of a bake as it is written: 7:30, 7.5, 7,5 or 8; null: it is none, or no bake is that long. */
export function secondsOf(text: string): number | null {
  const clock = /^(\d{1,2}):([0-5]\d)$/.exec(text.trim());
  const seconds = clock
    ? Number(clock[1]) * 60 + Number(clock[2])
    : /^\d{1,2}([.,]\d+)?$/.test(text.trim())
      ? Number(text.trim().replace(",", ".")) * 60
      : NaN;
  return seconds >= 30 && seconds <= 5400 ? seconds : null;
}
