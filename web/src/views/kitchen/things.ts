import { answer, client, type Schemas } from "../../api/client";

export type Kitchen = Schemas["KitchenOut"];
export type Hearth = Schemas["HearthOut"];
export type Surface = Schemas["SurfaceOut"];
export type Pan = Schemas["PanOut"];
export type Instrument = Schemas["InstrumentOut"];
export type Tool = Schemas["ToolOut"];
export type Thing = Hearth | Surface | Pan | Instrument | Tool;
export type Noun = "hearths" | "surfaces" | "pans" | "instruments" | "tools";
export type HearthIn = Schemas["HearthIn"];
export type SurfaceIn = Schemas["SurfaceIn"];
export type PanIn = Schemas["PanIn"];
export type InstrumentIn = Schemas["InstrumentIn"];
export type SupportIn = SurfaceIn | PanIn;
export type ToolIn = Schemas["ToolIn"];
export type Values = HearthIn | SupportIn | InstrumentIn | ToolIn;

export const NOUNS: readonly (readonly [Noun, string, string])[] = [
  ["hearths", "Hearths", "hearth"],
  ["surfaces", "Surfaces", "surface"],
  ["pans", "Pans and trays", "pan"],
  ["instruments", "Instruments", "instrument"],
  ["tools", "Bowls, mixers, paper", "tool"],
];

/** What a cook may say of a thing. Whatever else the server tells of it is worked out, and never sent back. */
const SAID = {
  hearths: [
    "name",
    "kind",
    "max_setpoint_c",
    "levels",
    "has_fan",
    "fan_can_be_off",
    "top_element_kw",
    "top_element_usable",
    "power_kw",
    "dial_error_k",
    "loss_factor",
    "deck_factor",
    "rack_width_cm",
    "rack_depth_cm",
    "rack_kg",
  ] satisfies (keyof HearthIn)[],
  surfaces: ["name", "kind", "thickness_mm", "width_cm", "depth_cm"] satisfies (keyof SurfaceIn)[],
  pans: [
    "name",
    "kind",
    "thickness_mm",
    "width_cm",
    "depth_cm",
    "coating_limit_c",
    "wall_cm",
    "quantity",
    "is_round",
  ] satisfies (keyof PanIn)[],
  tools: ["name", "kind", "volume_l", "holds_g", "limit_c"] satisfies (keyof ToolIn)[],
  instruments: ["name", "kind"] satisfies (keyof InstrumentIn)[],
} as const;

/** A thing as its cook said it. */
export function valuesOf(noun: Noun, thing: Thing): Values {
  const told = thing as unknown as Record<string, unknown>;
  return Object.fromEntries(
    SAID[noun].filter((key) => key in told).map((key) => [key, told[key]]),
  ) as unknown as Values;
}

// The four shelves answer alike; their addresses differ by the noun alone. The types are the
// hearths', the bodies are checked by the server.
const shelf = (noun: Noun) => `/api/kitchen/${noun}` as "/api/kitchen/hearths";
const place = (noun: Noun) => `/api/kitchen/${noun}/{thing_id}` as "/api/kitchen/hearths/{thing_id}";

export function add(noun: Noun, values: Values): Promise<{ id: number }> {
  return answer(client.POST(shelf(noun), { body: values as HearthIn }));
}

/** Refused when the thing was changed in another window after `version`. */
export function change(noun: Noun, id: number, values: Values, version: number): Promise<unknown> {
  const params = { path: { thing_id: id }, query: { version } };
  return answer(client.PUT(place(noun), { params, body: values as HearthIn }));
}

export function retire(noun: Noun, id: number, version: number): Promise<unknown> {
  return answer(client.DELETE(place(noun), { params: { path: { thing_id: id }, query: { version } } }));
}

export function bringBack(noun: Noun, id: number): Promise<unknown> {
  const path = `/api/kitchen/${noun}/{thing_id}/restore` as "/api/kitchen/hearths/{thing_id}/restore";
  return answer(client.POST(path, { params: { path: { thing_id: id } } }));
}
