/** Value of a trace at time t, linear between its samples. */
export function valueAt(times: readonly number[], values: readonly number[], t: number): number {
  const last = times.length - 1;
  if (last < 0) return Number.NaN;
  if (t <= (times[0] ?? 0)) return values[0] ?? Number.NaN;
  if (t >= (times[last] ?? 0)) return values[last] ?? Number.NaN;
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((times[middle] ?? 0) <= t) low = middle;
    else high = middle;
  }
  const a = times[low] ?? 0;
  const b = times[high] ?? 1;
  const va = values[low] ?? 0;
  const vb = values[high] ?? 0;
  return va + ((vb - va) * (t - a)) / (b - a);
}
