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
