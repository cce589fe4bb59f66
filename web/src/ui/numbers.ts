/** What a cook types as a number: a comma or a point, spaces round it. null: nothing; NaN: no number. */
export function numberIn(text: string): number | null {
  const trimmed = text.trim();
  if (trimmed === "") return null;
  return /^[+\-−]?(\d+([.,]\d*)?|[.,]\d+)$/.test(trimmed)
    ? Number(trimmed.replace(",", ".").replace("−", "-"))
    : NaN;
}

/** Whether a text is a number between two bounds. */
export function isNumber(
  text: string,
  [least, most]: readonly [number, number] = [-Infinity, Infinity],
): boolean {
  const number = numberIn(text);
  return number !== null && number >= least && number <= most;
}
