import type { Words } from "./types";

export type Handling = NonNullable<Words["handling"]>;
type Flag = "docked" | "rim_oil" | "sauce_last" | "covered";
type Leavable = NonNullable<Handling["left_out"]>[number];

/** What may be done to a base or not, by name. */
export const HANDLED: readonly { key: Flag; name: string }[] = [
  { key: "covered", name: "Cover the dough" },
  { key: "docked", name: "Prick the base all over (docking)" },
  { key: "rim_oil", name: "Brush the rim with oil" },
  { key: "sauce_last", name: "Put the sauce on last, over the cheese" },
];

/** Steps that a supper can do without. */
export const LEAVABLE: readonly { key: Leavable; name: string }[] = [
  { key: "sauce", name: "Make the sauce" },
  { key: "prep", name: "Prepare the toppings" },
  { key: "relax", name: "Stretch the dough a second time in its pan" },
];

/** The handling with one part changed; the rest stays. */
export const withHandling = <K extends Flag | "folds">(
  handling: Handling,
  key: K,
  value: Handling[K],
): Handling => ({
  ...handling,
  [key]: value,
});

/** The handling with a step left out, or in again. */
export function withLeftOut(handling: Handling, key: Leavable, out: boolean): Handling {
  const others = (handling.left_out ?? []).filter((one) => one !== key);
  return { ...handling, left_out: out ? [...others, key] : others };
}

/** The handling with a step of the cook's own more. */
export const withAdded = (handling: Handling, step: NonNullable<Handling["added"]>[number]): Handling => ({
  ...handling,
  added: [...(handling.added ?? []), step],
});
