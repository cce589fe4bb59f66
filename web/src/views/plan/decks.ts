import type { OvenState } from "../../ui/ovenGeometry";
import type { Controls, Preview } from "./types";

/** How wide a second deck is drawn, cm. */
const SECOND_CM = 36;

/** What the pizza lies on, and the other deck of two: once it has gone onto the second, its own is the one left behind. */
export function decksAt(
  controls: Pick<Controls, "level" | "overhead" | "move">,
  surface: Preview["ask"]["surface"],
  widthCm: number | undefined,
  moved: boolean,
): { under: OvenState["deck"]; other: OvenState["overhead"] } {
  const own = surface
    ? { kind: surface.kind, thicknessMm: surface.thickness_mm ?? 10, widthCm: widthCm ?? SECOND_CM }
    : null;
  const over = controls.overhead;
  if (!over) return { under: own, other: null };
  const second = { kind: over.kind, thicknessMm: over.thickness_mm ?? 10 };
  if (!own || !moved || controls.move?.level !== over.level)
    return { under: own, other: { ...second, level: over.level, name: "second deck" } };
  return {
    under: { ...second, widthCm: SECOND_CM },
    other: { kind: own.kind, thicknessMm: own.thicknessMm, level: controls.level, name: "first deck" },
  };
}
