import { describe, expect, it } from "vitest";
import { crustWord } from "./crust";
import { wordAt } from "./wordAt";

describe("a word that holds at a moment", () => {
  const bite = [
    { from_s: -120, word: "limp" },
    { from_s: 65, word: "bends" },
    { from_s: 330, word: "crisp" },
  ];

  it.each([
    [-500, undefined],
    [-120, "limp"],
    [64.9, "limp"],
    [65, "bends"],
    [329.9999999, "crisp"],
    [1e6, "crisp"],
  ])("is, at %s s, %s", (at, word) => {
    expect(wordAt(bite, at)).toBe(word);
  });

  it("is none of a plan from before such words were kept", () => {
    expect(wordAt(undefined, 100)).toBeUndefined();
    expect(wordAt([], 100)).toBeUndefined();
  });
});

describe("a colour's word", () => {
  const cheese = [
    { word: "melted", above_l: 77 },
    { word: "golden spots", above_l: 69 },
    { word: "burnt", above_l: 0 },
  ];

  it("is the palest that it is darker than, and the last for all that is darker still", () => {
    expect([84, 77, 70, 20, 0, -3].map((l) => crustWord(cheese, l))).toEqual([
      "melted",
      "golden spots",
      "golden spots",
      "burnt",
      "burnt",
      "burnt",
    ]);
    expect(crustWord([], 50)).toBe("");
  });
});
