import { hearthKind, type Kinds } from "../../ui/kinds";
import type { useUnits } from "../../ui/units";
import type { Hearth, Instrument, Noun, Pan, Surface, Thing, Tool } from "./things";

/** A thing in one line. */
export function about(noun: Noun, thing: Thing, kinds: Kinds, units: ReturnType<typeof useUnits>): string {
  if (noun === "hearths") return aboutHearth(thing as Hearth, kinds, units);
  if (noun === "tools") return aboutTool(thing as Tool, units);
  if (noun === "instruments") return USES[(thing as Instrument).kind] ?? "";
  return aboutSupport(noun, thing as Surface, kinds, units);
}

function aboutTool(t: Tool, units: ReturnType<typeof useUnits>): string {
  if (t.kind === "container") return `holds ${units.volume(t.volume_l ?? 0)}`;
  if (t.kind === "parchment") return `to ${units.temp(t.limit_c ?? 0)}`;
  return `takes ${units.mass(t.holds_g ?? 0)} of dough at once`;
}

const USES: Record<string, string> = {
  infrared: "reads the deck",
  oven_probe: "reads the air",
  instant_probe: "reads dough and crumb",
  scale: "weighs",
  wireless: "writes here by itself",
};

function aboutHearth(h: Hearth, kinds: Kinds, units: ReturnType<typeof useUnits>): string {
  const heat = hearthKind(kinds, h.kind)?.heat;
  if (heat === "burner") return `a burner of ${String(h.power_kw ?? 2)} kW, to start pans on`;
  if (heat === "fire") return `its floor to ${units.temp(h.max_setpoint_c ?? 400)}, outdoors`;
  const off = h.dial_error_k ?? 0;
  const lies =
    off === 0 ? "" : `, really ${units.tempDifference(Math.abs(off))} ${off < 0 ? "cooler" : "hotter"}`;
  const known = h.calibrated ? ", measured" : "";
  return `to ${units.temp(h.max_setpoint_c ?? 250)}${lies}${known}; ${String(h.levels ?? 5)} levels`;
}

function aboutSupport(noun: Noun, s: Surface, kinds: Kinds, units: ReturnType<typeof useUnits>): string {
  const weight = units.us("mass") ? `${(s.mass_kg * 2.2046).toFixed(1)} lb` : `${s.mass_kg.toFixed(1)} kg`;
  const pan = noun === "pans" ? (s as Pan) : null;
  const round = pan !== null && (pan.is_round ?? kinds.pans.find((k) => k.key === pan.kind)?.round ?? false);
  const size =
    round && s.width_cm === s.depth_cm
      ? `${units.size(s.width_cm)} across`
      : `${units.size(s.width_cm)} by ${units.size(s.depth_cm)}`;
  const many = pan !== null && pan.quantity > 1 ? `${String(pan.quantity)} of them, ` : "";
  return `${many}${size}, ${units.length(s.thickness_mm)}, ${weight}`;
}
