import type { Schemas } from "../api/client";
import type { Sentence } from "../ui/planDraft";
import type { Choice } from "../ui/Picker";
import type { StyleLine } from "../ui/styles";
import type { useUnits } from "../ui/units";

type Kitchen = Schemas["KitchenOut"];
export type Rigs = Schemas["RigsOut"];
type Rig = Rigs["rigs"][number];

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
  return rigsFor(style, rigs)
    .filter((rig) => rig.hearth_id === hearthId)
    .map((rig) => {
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

/** What a style can be baked on in this kitchen; what it is made on comes first. */
export function rigsFor(style: Pick<StyleLine, "key" | "ownId"> | undefined, rigs: Rigs): Rig[] {
  const own = style?.ownId ?? null;
  const goes = (rig: Rig) =>
    own !== null ? rig.own_styles.includes(own) : rig.styles.includes(style?.key ?? "");
  const made = (rig: Rig) =>
    own !== null ? rig.made_for_own.includes(own) : rig.made_for.includes(style?.key ?? "");
  const offered = rigs.rigs.filter(goes);
  return [...offered.filter(made), ...offered.filter((rig) => !made(rig))];
}
