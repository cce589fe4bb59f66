import type { DoughInput, DoughPart, SupperDraft } from "./types";

/** Parts of suppers as tests need them. */
export const pile = (count: number, way?: object[]) => ({
  count,
  mass_g: 250,
  name: "",
  ...(way ? { way } : {}),
});

export const doughOf = (...pieces: object[]): DoughPart => ({
  name: "Rounds",
  dough: {
    formula: { lines: [{ ingredient: "salt", pct: 2 }], pieces, style: "home_oven_round" },
    steps: [{ hours: 20, temp_c: 4 }],
    seen: [],
  } as unknown as DoughInput,
  mixedAt: null,
});

/** What of a supper differs from another, part by part and value by value. */
export function changed(before: SupperDraft, after: SupperDraft): string[] {
  const flat = (value: unknown, at: string): [string, string][] =>
    value !== null && typeof value === "object"
      ? Object.entries(value).flatMap(([key, one]) => flat(one, `${at}.${key}`))
      : [[at, JSON.stringify(value)]];
  const was = new Map(flat(before, ""));
  const now = new Map(flat(after, ""));
  return [...new Set([...was.keys(), ...now.keys()])].filter((key) => was.get(key) !== now.get(key)).sort();
}
