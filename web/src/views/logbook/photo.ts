import type { Schemas } from "../../api/client";
import type { Came } from "./book";

export type Photo = Schemas["PhotoOut"];
export type Said = Schemas["PhotoSaid"];
export type Place = readonly [number, number];
export type Part = "base" | "rim" | "cheese";

export const LARGEST_BYTES = 12 * 2 ** 20;
export const READ = "image/jpeg,image/png,image/webp";
/** A tap so near a white that was tapped before takes it away, as a share of the picture. */
const NEAR = 0.035;
const MOST_WHITES = 4;

/** What is said of a photo so far; what was found by itself is not sent as if it had been said. */
export function saidOf(photo: Photo): Said {
  return {
    shows: photo.shows,
    white: photo.white,
    whites: photo.tapped ? photo.measured.whites : [],
    outline: photo.by_hand ? photo.measured.outline : null,
  };
}

/** White is tapped here, too; or no longer, where it was. */
export function tapped(photo: Photo, [x, y]: Place): Said {
  const said = saidOf(photo);
  const before = said.whites ?? [];
  const others = before.filter(([a, b]) => Math.hypot(a - x, b - y) > NEAR);
  const whites: [number, number][] =
    others.length < before.length ? others : [...before, [x, y] as [number, number]].slice(-MOST_WHITES);
  return { ...said, whites };
}

const inside = (share: number) => Math.min(1, Math.max(0, share));

/** An outline with one of its points elsewhere; its neighbours give way by half, so that a bulge stays round. */
export function pulled(outline: readonly Place[], at: number, dx: number, dy: number): [number, number][] {
  const count = outline.length;
  return outline.map(([x, y], i) => {
    const apart = Math.min((i - at + count) % count, (at - i + count) % count);
    const by = apart === 0 ? 1 : apart === 1 ? 0.5 : 0;
    return [inside(x + by * dx), inside(y + by * dy)];
  });
}

/** What came out, with what a photo tells of it in the place of what an eye said. */
export function withMeasured(came: Came, photo: Photo): Came {
  const { parts, evenness } = photo.measured;
  const sides = photo.shows === "top" && evenness ? { sides_l: Math.min(60, evenness.darker_l) } : {};
  const found = Object.fromEntries(
    (parts ?? []).map((one) => [one.part, Math.min(95, Math.max(10, one.l_star))]),
  );
  return {
    ...came,
    ...found,
    ...sides,
    measured: [...new Set([...(came.measured ?? []), ...namesOf(parts)])],
  };
}

function namesOf(parts: Photo["measured"]["parts"]): Part[] {
  return (parts ?? []).map((one) => one.part);
}

/** What an eye says, in the place of what was measured. */
export function withSeen(came: Came, part: Part, l: number | null): Came {
  return { ...came, [part]: l, measured: (came.measured ?? []).filter((one) => one !== part) };
}
