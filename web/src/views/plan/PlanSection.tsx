import { FlameSection, type FireState } from "../../ui/FlameSection";
import { GrillSection } from "../../ui/GrillSection";
import { crustColour, type Reference } from "../../ui/crust";
import { OvenSection } from "../../ui/OvenSection";
import type { CrustNow } from "../../ui/Slice";
import { bakeTime } from "../../ui/time";
import { decksAt } from "./decks";
import type { Controls, Kitchen, Preview, Sentence } from "./types";

/** The hearth of this plan cut open, each kind by its own drawing, live at the moment shown. */
export function PlanSection({
  played,
  controls,
  sentence,
  kitchen,
  reference,
  crust,
  at,
  deckC,
  airC,
  pizzaCm,
  onControl,
  onLevel,
  onTop,
  onFan,
  onDrag,
}: {
  played: Preview;
  controls: Controls;
  sentence: Sentence;
  kitchen: Kitchen;
  reference: Reference;
  crust: CrustNow;
  at: number;
  deckC: number;
  airC: number;
  pizzaCm: number;
  onControl: (next: Partial<Controls>) => void;
  onLevel: (level: number) => void;
  onTop: () => void;
  onFan: () => void;
  onDrag: (dragging: boolean) => void;
}) {
  const { ask, result } = played;
  const hearth = ask.hearth;
  const surface = kitchen.surfaces.find((s) => s.id === sentence.surface_id);
  const pan = kitchen.pans.find((p) => p.id === sentence.pan_id);
  const colours = {
    crustColour: crustColour(reference.ramp, crust.rimL),
    cheeseColour: crustColour(reference.ramp, crust.cheeseL + 3),
  };
  const filled = result.dough.shape === "pan";
  if (result.fire) {
    const fire: FireState = {
      kind: hearth?.kind ?? "flame_oven",
      faceC: controls.setpoint_c,
      nowC: deckC,
      airC,
      domeOverK: controls.dome_over_k ?? result.fire.dome_over_k,
      lowestC: result.fire.lowest_c,
      hottestC: result.fire.hottest_c,
      domeLowK: result.fire.dome_low_k,
      domeHighK: result.fire.dome_high_k,
      surface: ask.surface ? { kind: ask.surface.kind, thicknessMm: ask.surface.thickness_mm ?? 10 } : null,
      pan: ask.pan ? { widthCm: pan?.width_cm ?? 26, filled } : null,
      pizzaCm,
      rise: crust.rise,
      ...colours,
    };
    const hands = {
      onFace: (setpoint_c: number) => {
        onControl({ setpoint_c });
      },
      onDome: (dome_over_k: number) => {
        onControl({ dome_over_k });
      },
      onDrag,
    };
    return hearth?.kind === "flame_oven" ? (
      <FlameSection fire={fire} hands={hands} />
    ) : (
      <GrillSection fire={fire} hands={hands} />
    );
  }
  const top = controls.top_element ?? null;
  const move = controls.move ?? null;
  const moved = move !== null && at >= move.at_s;
  const decks = decksAt(controls, ask.surface, surface?.width_cm, moved);
  return (
    <OvenSection
      oven={{
        kind: hearth?.kind ?? "electric_oven",
        heightsCm: result.level_heights_cm,
        cavityCm: result.cavity_height_cm,
        level: moved ? move.level : controls.level,
        alsoLevel: move && !moved ? move.level : null,
        overhead: decks.other,
        shielded: controls.shield != null && at >= controls.shield.on_s && at < controls.shield.off_s,
        fan: controls.fan ?? false,
        hasFan: hearth?.has_fan ?? false,
        topUsable: (hearth?.top_element_usable ?? true) && (hearth?.top_element_kw ?? 0) > 0,
        topGlows: top !== null && at >= top.on_s && at < top.off_s,
        topText: top ? `${top.on_s <= 0 ? "launch" : bakeTime(top.on_s)} to ${bakeTime(top.off_s)}` : "off",
        bottomText:
          hearth?.kind === "gas_oven" ? "burner, cycling" : controls.fan ? "ring and fan" : "base, cycling",
        deckC,
        airC,
        ...colours,
        deck: decks.under,
        pan: ask.pan
          ? {
              kind: ask.pan.kind,
              thicknessMm: ask.pan.thickness_mm ?? 1,
              widthCm: pan?.width_cm ?? 34,
              filled,
            }
          : null,
        pizzaCm,
        rise: crust.rise,
      }}
      onLevel={onLevel}
      onDrag={onDrag}
      onTop={onTop}
      onFan={onFan}
    />
  );
}
