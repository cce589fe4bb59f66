export const W = 540;
export const H = 330;
/** px for a centimetre. */
export const PX = 8.4;
const LARGE = { x: 30, y: 26, w: 46 * PX, h: 33 * PX };
const SMALL = { x: 30 + 5 * PX, y: 26 + 6 * PX, w: 36 * PX, h: 21 * PX };
export const LABEL_X = LARGE.x + LARGE.w + 16;

export interface OvenState {
  kind: string;
  /** Another deck, above or below: its level, kind and thickness, and what it is called. */
  overhead: { level: number; kind: string; thicknessMm: number; name: string } | null;
  /** An empty sheet lies over the food at the moment shown. */
  shielded: boolean;
  /** Where the food will be moved, or was at first. */
  alsoLevel: number | null;
  /** Heights of the rack levels over the floor, bottom to top. */
  heightsCm: readonly number[];
  cavityCm: number;
  level: number;
  fan: boolean;
  hasFan: boolean;
  topUsable: boolean;
  /** Whether the top element glows at the moment shown, and when it is set to. */
  topGlows: boolean;
  topText: string;
  bottomText: string;
  deckC: number;
  airC: number;
  crustColour: string;
  cheeseColour: string;
  /** What stands on the rack; a pan may stand on a deck. `filled`: the dough is proofed in the pan. */
  deck: { kind: string; thicknessMm: number; widthCm: number } | null;
  pan: { kind: string; thicknessMm: number; widthCm: number; filled: boolean } | null;
  pizzaCm: number;
  rise: number;
}

/** Where everything of an oven is, in px. */
export function ovenGeometry(oven: OvenState) {
  const CAVITY = oven.kind === "countertop_oven" ? SMALL : LARGE;
  const levels = oven.heightsCm.length;
  const levelY = (level: number) =>
    CAVITY.y + CAVITY.h * (1 - (oven.heightsCm[level - 1] ?? 0) / oven.cavityCm);
  return {
    CAVITY,
    levels,
    levelY,
    /** The level nearest to a height. */
    nearest: (y: number): number => {
      let best = 1;
      for (let l = 1; l <= levels; l++) if (Math.abs(levelY(l) - y) < Math.abs(levelY(best) - y)) best = l;
      return best;
    },
    // The fan and the air's figure keep out of the deck's way.
    quietY: oven.level > levels / 2 ? CAVITY.y + CAVITY.h - 62 : CAVITY.y + 78,
  };
}

export type OvenGeometry = ReturnType<typeof ovenGeometry>;

/** A thickness drawn so that it can be seen. */
export function drawnMm(mm: number, least = 2.5): number {
  return Math.max(least, (mm / 10) * PX);
}
