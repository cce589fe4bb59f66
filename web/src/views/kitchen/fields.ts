import type { HearthKind, Kinds } from "../../ui/kinds";
import type { Noun } from "./things";

const INSTRUMENTS: readonly (readonly [string, string])[] = [
  ["infrared", "infrared thermometer"],
  ["oven_probe", "oven probe"],
  ["instant_probe", "instant-read probe"],
  ["scale", "scale"],
  ["wireless", "wireless thermometer"],
];

const TOOLS: readonly (readonly [string, string])[] = [
  ["container", "bowl or container"],
  ["mixer", "mixer"],
  ["processor", "food processor"],
  ["parchment", "baking paper"],
];

/** The kinds of a noun to choose from, with their words. */
export function kindsOf(noun: Noun, kinds: Kinds): readonly (readonly [string, string])[] {
  if (noun === "instruments") return INSTRUMENTS;
  if (noun === "tools") return TOOLS;
  if (noun === "pans") return kinds.pans.map((k) => [k.key, k.round ? `${k.word}, round` : k.word]);
  return kinds[noun].map((k) => [k.key, k.word]);
}

/** A number of a thing: its key, its words, its unit, and whether it may be left empty. */
export interface NumberField {
  key: string;
  name: string;
  unit: string;
  open?: boolean;
}

const OVEN: readonly NumberField[] = [
  { key: "max_setpoint_c", name: "dial goes to", unit: "°C" },
  { key: "levels", name: "rack levels", unit: "" },
  { key: "dial_error_k", name: "really differs from the dial by", unit: "K" },
  { key: "power_kw", name: "heating power", unit: "kW" },
  { key: "top_element_kw", name: "top element (0: none)", unit: "kW" },
];
const RACK: readonly NumberField[] = [
  { key: "rack_width_cm", name: "racks inside, wide", unit: "cm", open: true },
  { key: "rack_depth_cm", name: "racks inside, deep", unit: "cm", open: true },
  { key: "rack_kg", name: "a rack is rated for", unit: "kg", open: true },
];
const FIRE: readonly NumberField[] = [
  { key: "max_setpoint_c", name: "its floor or grate gets to", unit: "°C" },
];
const HOB: readonly NumberField[] = [{ key: "power_kw", name: "strongest burner", unit: "kW" }];
const SUPPORT: readonly NumberField[] = [
  { key: "thickness_mm", name: "thickness", unit: "mm" },
  { key: "width_cm", name: "width", unit: "cm" },
  { key: "depth_cm", name: "depth", unit: "cm" },
];
const PAN: readonly NumberField[] = [
  ...SUPPORT,
  { key: "quantity", name: "how many of them", unit: "" },
  { key: "wall_cm", name: "height of its wall", unit: "cm" },
  { key: "coating_limit_c", name: "coated, stands up to", unit: "°C", open: true },
];

// A round has one size, an oval two.
const ROUND: Record<string, string> = { width_cm: "diameter", depth_cm: "across it (an oval)" };

export const OVEN_SWITCHES: readonly (readonly [string, string])[] = [
  ["top_element_usable", "the top element works with the door shut"],
  ["has_fan", "it has a fan"],
  ["fan_can_be_off", "the fan can be switched off"],
];

const PAN_SWITCHES: readonly (readonly [string, string])[] = [["is_round", "it is round (no corners)"]];

const VOLUME: NumberField = { key: "volume_l", name: "holds, to the brim", unit: "l" };
const HOLDS: NumberField = { key: "holds_g", name: "dough it takes at once", unit: "g" };
const TOOL: Record<string, NumberField> = {
  mixer: HOLDS,
  processor: HOLDS,
  parchment: { key: "limit_c", name: "limit printed on it", unit: "°C" },
};

/** What is asked of a thing of this noun; of a hearth, by its kind. */
export function numbersOf(
  noun: Noun,
  hearth: HearthKind | undefined,
  round = false,
  kind = "",
): readonly NumberField[] {
  if (noun === "surfaces") return SUPPORT;
  if (noun === "pans") return round ? PAN.map((f) => ({ ...f, name: ROUND[f.key] ?? f.name })) : PAN;
  if (noun === "instruments") return [];
  if (noun === "tools") return [TOOL[kind] ?? VOLUME];
  if (hearth?.heat === "burner") return HOB;
  if (hearth?.heat === "fire") return hearth.racks ? [...FIRE, ...RACK.slice(0, 2)] : FIRE;
  return [...OVEN, ...RACK];
}

export function switchesOf(
  noun: Noun,
  hearth: HearthKind | undefined,
): readonly (readonly [string, string])[] {
  if (noun === "pans") return PAN_SWITCHES;
  return noun === "hearths" && (hearth?.heat ?? "dial") === "dial" ? OVEN_SWITCHES : [];
}
