import type { Schemas } from "../../api/client";
import type { DoughInput } from "./types";

type Item = Pick<Schemas["BesideItem"], "use" | "ingredient">;
type Outside = NonNullable<DoughInput["outside"]>[number];

/** The dough with so many grams of one thing beside it; 0 leaves it out. */
export function withBeside(dough: DoughInput, item: Item, grams: number): DoughInput {
  const use = item.use as Outside["use"];
  const others = (dough.outside ?? []).filter((one) => one.use !== use);
  return {
    ...dough,
    outside: [...others, { use, ingredient: item.ingredient, grams: Math.round(grams * 10) / 10 }],
  };
}
