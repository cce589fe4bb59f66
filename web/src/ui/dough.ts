import type { Schemas } from "../api/client";

/** What doughs and days are made of, as the server knows it. */
export type DoughReference = Schemas["DoughReferenceOut"];
