import { answer, client, type Schemas } from "../../api/client";

export type Kitchen = Schemas["KitchenOut"];
export type Hearth = Schemas["HearthOut"];
export type Support = Schemas["SurfaceOut"];
export type Noun = "hearths" | "surfaces" | "pans";
export type HearthIn = Schemas["HearthIn"];
export type SupportIn = Schemas["SurfaceIn"];
export type Values = HearthIn | SupportIn;

export const NOUNS: readonly (readonly [Noun, string, string])[] = [
  ["hearths", "Hearths", "hearth"],
  ["surfaces", "Surfaces", "surface"],
  ["pans", "Pans and trays", "pan"],
];

/** A thing without its id and what is worked out from it. */
export function valuesOf(thing: Hearth | Support): Values {
  const worked: readonly string[] = ["id", "mass_kg"];
  return Object.fromEntries(
    Object.entries(thing).filter(([key]) => !worked.includes(key)),
  ) as unknown as Values;
}

export function add(noun: Noun, values: Values): Promise<{ id: number }> {
  if (noun === "hearths") return answer(client.POST("/api/kitchen/hearths", { body: values as HearthIn }));
  if (noun === "surfaces") return answer(client.POST("/api/kitchen/surfaces", { body: values as SupportIn }));
  return answer(client.POST("/api/kitchen/pans", { body: values as SupportIn }));
}

export function change(noun: Noun, id: number, values: Values): Promise<unknown> {
  if (noun === "hearths")
    return answer(
      client.PUT("/api/kitchen/hearths/{hearth_id}", {
        params: { path: { hearth_id: id } },
        body: values as HearthIn,
      }),
    );
  if (noun === "surfaces")
    return answer(
      client.PUT("/api/kitchen/surfaces/{surface_id}", {
        params: { path: { surface_id: id } },
        body: values as SupportIn,
      }),
    );
  return answer(
    client.PUT("/api/kitchen/pans/{pan_id}", { params: { path: { pan_id: id } }, body: values as SupportIn }),
  );
}

export function retire(noun: Noun, id: number): Promise<unknown> {
  if (noun === "hearths")
    return answer(client.DELETE("/api/kitchen/hearths/{hearth_id}", { params: { path: { hearth_id: id } } }));
  if (noun === "surfaces")
    return answer(
      client.DELETE("/api/kitchen/surfaces/{surface_id}", { params: { path: { surface_id: id } } }),
    );
  return answer(client.DELETE("/api/kitchen/pans/{pan_id}", { params: { path: { pan_id: id } } }));
}

export function bringBack(noun: Noun, id: number): Promise<unknown> {
  if (noun === "hearths")
    return answer(
      client.POST("/api/kitchen/hearths/{hearth_id}/restore", { params: { path: { hearth_id: id } } }),
    );
  if (noun === "surfaces")
    return answer(
      client.POST("/api/kitchen/surfaces/{surface_id}/restore", { params: { path: { surface_id: id } } }),
    );
  return answer(client.POST("/api/kitchen/pans/{pan_id}/restore", { params: { path: { pan_id: id } } }));
}
