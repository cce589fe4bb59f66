import { describe, expect, it } from "vitest";
import { NOTHING_SEEN } from "./book";
import { pulled, saidOf, tapped, withMeasured, withSeen, type Photo } from "./photo";

const PHOTO: Photo = {
  id: 1,
  version: 3,
  shows: "underside",
  white: "plate",
  tapped: false,
  by_hand: false,
  width: 800,
  height: 600,
  problem: "",
  measured: {
    outline: [
      [0.5, 0.2],
      [0.8, 0.5],
      [0.5, 0.8],
      [0.2, 0.5],
      [0.3, 0.3],
    ],
    whites: [[0.1, 0.1]],
    parts: [{ part: "base", l_star: 56.2, a_star: 12, b_star: 31, word: "golden-brown", colour: "#b08050" }],
    spots: null,
    evenness: null,
    words: [],
    cannot: [],
  },
};

describe("what is said of a photo", () => {
  it("holds only what was said, not what was found", () => {
    expect(saidOf(PHOTO)).toEqual({ shows: "underside", white: "plate", whites: [], outline: null });
    const said = saidOf({ ...PHOTO, tapped: true, by_hand: true });
    expect(said.whites).toEqual(PHOTO.measured.whites);
    expect(said.outline).toEqual(PHOTO.measured.outline);
  });

  it("takes a tap in, takes it away by a second, and forgets the oldest of five", () => {
    let photo = PHOTO;
    const tap = (x: number, y: number) => {
      const said = tapped(photo, [x, y]);
      photo = { ...photo, tapped: true, measured: { ...photo.measured, whites: said.whites ?? [] } };
      return said.whites;
    };
    expect(tap(0.2, 0.2)).toEqual([[0.2, 0.2]]);
    expect(tap(0.21, 0.2)).toEqual([]);
    for (const x of [0.1, 0.3, 0.5, 0.7, 0.9]) tap(x, 0.5);
    expect(photo.measured.whites.map(([x]) => x)).toEqual([0.3, 0.5, 0.7, 0.9]);
  });

  it("pulls an outline's point with half its neighbours, and never out of the picture", () => {
    const before = PHOTO.measured.outline;
    expect(pulled(before, 0, 0, 0)).toEqual(before);
    const moved = pulled(before, 1, 0.5, 0.1);
    expect(moved[1]).toEqual([1, 0.6]);
    expect(moved[0]?.[0]).toBeCloseTo(0.75);
    expect(moved[2]?.[0]).toBeCloseTo(0.75);
    expect(moved[3]).toEqual(before[3]);
    // Round the corner: the last point's neighbour is the first.
    expect(pulled(before, 4, -1, 0)[0]?.[0]).toBe(0);
  });
});

describe("what a photo tells of what came out", () => {
  it("stands in the place of an eye's word, until an eye says otherwise", () => {
    const came = withMeasured({ ...NOTHING_SEEN, base: "golden", rim: 60 }, PHOTO);
    expect(came).toMatchObject({ base: 56.2, rim: 60, measured: ["base"] });
    expect(withMeasured(came, PHOTO).measured).toEqual(["base"]);
    expect(came.sides_l).toBeUndefined();
    const evenness = { darker_l: 7.5, side_deg: 90, side: "right" };
    const top: Photo = { ...PHOTO, shows: "top", measured: { ...PHOTO.measured, evenness } };
    expect(withMeasured(came, top).sides_l).toBe(7.5);
    expect(withSeen(came, "base", 70)).toMatchObject({ base: 70, measured: [] });
    expect(withSeen(came, "rim", 58).measured).toEqual(["base"]);
  });
});
