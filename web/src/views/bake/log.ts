import { pizzaOf, stages, standing } from "../../ui/bakeStages";
import type { Happened } from "../../ui/bakeTypes";

export interface LogLine {
  id: string;
  atMs: number;
  /** Seconds after its launch; null: before it. */
  sinceS: number | null;
  text: string;
  deckC: number | null;
}

const TEXT: Record<string, string> = {
  "bake.read": "deck read",
  "bake.launched": "launched",
  "bake.pulled": "pulled",
};

/** What a swatch of a part is called. */
export type Word = (part: string, l: number) => string;

/** A look in words: what of it was named or matched. */
function look(payload: Record<string, unknown>, word: Word): string {
  const parts = ["base", "rim", "cheese"].filter((part) => payload[part] != null);
  return `seen: ${parts.map((part) => (typeof payload[part] === "number" ? `${part} ${word(part, payload[part])}` : `${part} ${String(payload[part])}`)).join(", ")}`;
}

function text(one: Happened, word: Word): string {
  if (one.kind === "bake.seen") return look(one.payload, word);
  if (one.kind === "bake.done") return String(one.payload.do).replaceAll("_", " ");
  if (one.kind === "bake.skipped") return `left out: ${String(one.payload.do).replaceAll("_", " ")}`;
  if (one.kind === "bake.sign") return String(one.payload.kind).replaceAll("_", " ");
  if (one.kind === "bake.read" && one.payload.golden_s != null)
    return `flour golden after ${String(one.payload.golden_s)} s`;
  return TEXT[one.kind] ?? one.kind;
}

/** What was told of one pizza and stands, in its order; readings belong to the next launch. */
export function linesOf(happened: readonly Happened[], pizza: number, count: number, word: Word): LogLine[] {
  const told = standing(happened);
  const of = (n: number) =>
    stages(
      told.filter((one) => pizzaOf(one) <= n && one.kind !== "bake.more"),
      n,
    );
  const mine = of(pizza);
  const free = pizza > 1 ? (of(pizza - 1).pulledMs ?? Infinity) : 0;
  return told
    .filter((one) => {
      const at = Date.parse(one.at);
      if (one.kind === "bake.read")
        return at >= free && (mine.launchedMs === null ? pizza === count : at <= mine.launchedMs);
      return pizzaOf(one) === pizza && !["bake.more", "bake.ended"].includes(one.kind);
    })
    .map((one) => {
      const atMs = Date.parse(one.at);
      const since = mine.launchedMs === null || mine.pizza < pizza ? -1 : (atMs - mine.launchedMs) / 1000;
      return {
        id: one.id,
        atMs,
        sinceS: since > 0 ? since : null,
        text: text(one, word),
        deckC: typeof one.payload.deck_c === "number" ? one.payload.deck_c : null,
      };
    });
}
