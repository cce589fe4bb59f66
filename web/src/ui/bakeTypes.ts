import type { Schemas } from "../api/client";

export type BakeOut = Schemas["BakeOut"];
export type Happened = Schemas["HappenedOut"];
export type Live = Schemas["LiveResult"];
export type ToDo = Schemas["ToDo"];
export type Coming = Schemas["Coming"];
/** Tell that something happened, now or at a moment (ms since the epoch). */
export type Tell = (kind: string, payload?: Record<string, unknown>, atMs?: number) => void;
