import type { Choice } from "../../ui/Picker";
import type { StyleLine } from "../../ui/styles";
import type { useUnits } from "../../ui/units";
import type { Kitchen, Rigs, Sentence } from "./types";

/** A surface, a tray or pan on the rack, or a pan on a surface, as one key: "s3", "p7", "s3p7". */
export function supportKey(s: Pick<Sentence, "surface_id" | "pan_id">): string {
  return (
    (s.surface_id != null ? `s${String(s.surface_id)}` : "") +
    (s.pan_id != null ? `p${String(s.pan_id)}` : "")
  );
}

export interface Support extends Choice<string> {
  ids: { surface_id: number | null; pan_id: number | null };
}

/** What this kitchen offers a style to stand on in or over this hearth. */
export function supportsFor(
  style: StyleLine | undefined,
  hearthId: number,
  kitchen: Kitchen,
  rigs: Rigs,
  units: ReturnType<typeof useUnits>,
): Support[] {
  const offered = rigs.rigs.filter(
    (rig) =>
      rig.hearth_id === hearthId &&
      (style?.ownId != null ? rig.own_styles.includes(style.ownId) : rig.styles.includes(style?.key ?? "")),
  );
  const made = (rig: Rigs["rigs"][number]) =>
    style?.ownId != null ? rig.made_for_own.includes(style.ownId) : rig.made_for.includes(style?.key ?? "");
  // What the style is made on comes first.
  const sorted = [...offered.filter(made), ...offered.filter((rig) => !made(rig))];
  return sorted.map((rig) => {
    const surface = kitchen.surfaces.find((s) => s.id === rig.surface_id);
    const pan = kitchen.pans.find((p) => p.id === rig.pan_id);
    const thing = pan ?? surface;
    const size = thing ? `${units.size(thing.width_cm)} by ${units.size(thing.depth_cm)}` : "";
    const place = pan ? (surface ? "on the hot deck" : "on a rack or grate") : "";
    return {
      ids: { surface_id: rig.surface_id, pan_id: rig.pan_id },
      value: supportKey(rig),
      label: pan && surface ? `${pan.name} on the ${surface.name}` : rig.support,
      note: pan
        ? `${size}, ${place}`
        : surface
          ? `${surface.kind.replace("_", " ")}, ${units.length(surface.thickness_mm)}, ${size}`
          : rig.note,
    };
  });
}
