import { FIRES, type Noun } from "./things";

export const KINDS: Record<Noun, readonly (readonly [string, string])[]> = {
  hearths: [
    ["electric_oven", "electric oven"],
    ["gas_oven", "gas oven"],
    ["countertop_oven", "countertop oven"],
    ["flame_oven", "flame oven"],
    ["gas_grill", "gas grill"],
    ["charcoal_grill", "charcoal grill"],
    ["hob", "hob"],
  ],
  surfaces: [
    ["stone", "stone"],
    ["steel", "steel"],
    ["firebrick", "firebrick"],
    ["upturned_tray", "upturned tray"],
  ],
  pans: [
    ["cast_iron", "cast iron, round"],
    ["dark_aluminium", "dark aluminium"],
    ["bright_aluminium", "bright sheet"],
    ["blue_steel", "blue steel"],
    ["thin_tray", "thin tray"],
    ["perforated", "perforated tray"],
  ],
  instruments: [
    ["infrared", "infrared thermometer"],
    ["oven_probe", "oven probe"],
    ["instant_probe", "instant-read probe"],
    ["scale", "scale"],
    ["wireless", "wireless thermometer"],
  ],
};

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
  { key: "wall_cm", name: "height of its wall", unit: "cm" },
  { key: "coating_limit_c", name: "coated, stands up to", unit: "°C", open: true },
];

export const OVEN_SWITCHES: readonly (readonly [string, string])[] = [
  ["top_element_usable", "the top element works with the door shut"],
  ["has_fan", "it has a fan"],
  ["fan_can_be_off", "the fan can be switched off"],
];

/** What is asked of a thing of this noun and kind. */
export function numbersOf(noun: Noun, kind: string): readonly NumberField[] {
  if (noun === "surfaces") return SUPPORT;
  if (noun === "pans") return PAN;
  if (noun === "instruments") return [];
  if (kind === "hob") return HOB;
  if (FIRES.includes(kind)) return kind === "flame_oven" ? FIRE : [...FIRE, ...RACK.slice(0, 2)];
  return [...OVEN, ...RACK];
}

export function switchesOf(noun: Noun, kind: string): readonly (readonly [string, string])[] {
  return noun === "hearths" && kind !== "hob" && !FIRES.includes(kind) ? OVEN_SWITCHES : [];
}
