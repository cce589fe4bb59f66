import { server } from "../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type Schemas } from "../api/client";

/** What doughs and days are made of, as the server knows it. */
export type DoughReference = Schemas["DoughReferenceOut"];

/** What doughs are made of; it does not change. */
export function useDoughReference() {
  return useQuery(server.doughReference);
}
