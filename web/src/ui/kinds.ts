import type { Reference } from "./crust";

/** Every kind of thing a kitchen may hold, as the server knows them. */
export type Kinds = Reference["kinds"];
export type HearthKind = Kinds["hearths"][number];

/** The kind of a hearth by its key. */
export function hearthKind(kinds: Kinds, key: string | undefined): HearthKind | undefined {
  return kinds.hearths.find((kind) => kind.key === key);
}
