import { numberIn } from "../../ui/numbers";

const MM_IN = 25.4;
const BOUNDS_MM = [1, 80] as const;

/** A thickness as it is typed, in mm; null: nothing; NaN: no thickness. */
export function eatenMm(text: string, us: boolean): number | null {
  const typed = numberIn(text);
  if (typed === null) return null;
  const mm = Math.round((us ? typed * MM_IN : typed) * 10) / 10;
  return mm >= BOUNDS_MM[0] && mm <= BOUNDS_MM[1] ? mm : NaN;
}

/** The same as it stands in its field. */
export function shownEaten(mm: number | null, us: boolean): string {
  if (mm === null) return "";
  return us ? (mm / MM_IN).toFixed(2) : String(mm);
}
