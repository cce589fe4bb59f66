import { server } from "../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type Schemas } from "../api/client";
import type { Reference } from "./crust";

/** An answer has lists where a question has pairs. */
export type Listed<T> = T extends [number, number]
  ? number[]
  : T extends object
    ? { [K in keyof T]: Listed<T[K]> }
    : T;
export type OwnStyle = Listed<Schemas["OwnStyleOut"]>;
export type StyleBody = Listed<Schemas["Style"]>;
/** A style as it is offered; `ownId` where the cook made it. */
export type StyleLine = Reference["styles"][number] & { ownId: number | null };

function lineOf(own: OwnStyle): StyleLine {
  const s = own.style;
  return {
    key: s.key ?? `own-${String(own.id)}`,
    name: s.name,
    about: s.about ?? "",
    family: s.family ?? "round",
    shape: s.shape ?? "hand",
    diameter_cm: s.diameter_cm,
    mass_g: s.mass_g,
    hydration_pct: s.hydration_pct,
    topping_g_cm2: s.topping_g_cm2,
    base_l: s.target.base,
    rim_l: s.target.rim,
    ownId: own.id,
  };
}

/** The known styles whole and the cook's own. */
export function useStyles() {
  return useQuery(server.styles);
}

/** What does not change, and all styles to choose from, the cook's own last. */
export function useReference() {
  const reference = useQuery(server.reference);
  const styles = useStyles();
  const lines: StyleLine[] = [
    ...(reference.data?.styles ?? []).map((s) => ({ ...s, ownId: null })),
    ...(styles.data?.own ?? []).map(lineOf),
  ];
  return {
    data: reference.data && styles.data ? { reference: reference.data, styles: lines } : undefined,
    error: reference.error ?? styles.error,
    refetch: () => {
      void reference.refetch();
      void styles.refetch();
    },
  };
}
