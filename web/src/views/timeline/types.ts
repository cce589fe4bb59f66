import type { Schemas } from "../../api/client";
import type { SavedSupper, Words } from "../../supper/types";
import type { Listed } from "../../ui/styles";

export type { Words };
export type Told = Listed<Schemas["SupperPreview"]>;
export type Result = Told["result"];
export type PlacedStep = Result["steps"][number];
export type { SavedSupper };

export const LANES = ["dough", "hands", "hearth", "table"] as const;
