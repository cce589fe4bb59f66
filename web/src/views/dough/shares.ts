export const SHARES = [
  { key: "hydration_pct", name: "water" },
  { key: "salt_pct", name: "salt" },
  { key: "yeast_pct", name: "yeast as instant" },
  { key: "oil_pct", name: "fat" },
  { key: "sugar_pct", name: "sugar" },
] as const;

/** A share in as many digits as matter. */
export function short(value: number | undefined): string {
  if (value === undefined) return "–";
  return value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toFixed(2);
}
