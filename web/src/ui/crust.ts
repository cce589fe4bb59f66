import type { Schemas } from "../api/client";

export type Reference = Schemas["ReferenceOut"];

/** Hex colour of a crust, from the engine's ramp; the same everywhere. */
export function crustColour(ramp: readonly string[], l: number): string {
  return ramp[Math.max(0, Math.min(100, Math.round(l)))] ?? "#000000";
}

export function crustWord(words: Reference["words"], l: number): string {
  return words.find((w) => l > w.above_l)?.word ?? words.at(-1)?.word ?? "";
}

/** Ink that reads on a crust of this colour. */
export function inkOn(l: number): string {
  return l > 55 ? "#1c2224" : "#ffffff";
}
