import { describe, expect, it } from "vitest";
import { crustColour, crustWord, inkOn } from "./crust";
import { plain } from "./Figure";
import { fahrenheit, unitsOf } from "./units";

const metric = unitsOf("metric", () => undefined);
const us = unitsOf("us", () => undefined);

describe("units", () => {
  it("turn every marked number of a sentence, and nothing else", () => {
    const text = "At {250 C} the deck of {10 mm} is {8 K} cooler; {30 cm}, {500 g}; {x C} and {3 kW} stay.";
    expect(metric.say(text)).toBe(
      "At 250 °C the deck of 10 mm is 8 °C cooler; 30 cm, 500 g; {x C} and {3 kW} stay.",
    );
    expect(us.say(text)).toBe(
      "At 482 °F the deck of 0.39 in is 14 °F cooler; 12 in, 17.6 oz; {x C} and {3 kW} stay.",
    );
    expect(metric.say("{-20 C} and {1.5 mm}")).toBe("-20 °C and 1.5 mm");
  });

  it("keep differences apart from temperatures", () => {
    expect(us.temp(0)).toBe("32 °F");
    expect(us.tempDifference(0)).toBe("0 °F");
    expect(fahrenheit(-40)).toBe(-40);
  });
});

describe("a figure", () => {
  it.each([
    [1.5, 2, "1.5"],
    [2, 3, "2"],
    [0.1 + 0.2, 2, "0.3"],
    [0.0004, 2, "0"],
    [-0.001, 2, "0"],
    [1234.567, 1, "1234.6"],
  ])("%f to %i digits is %s", (value, digits, said) => {
    expect(plain(value, digits)).toBe(said);
  });
});

describe("crust", () => {
  const words = [
    { word: "pale", above_l: 76 },
    { word: "golden", above_l: 61 },
    { word: "dark", above_l: 35 },
    { word: "charred", above_l: 0 },
  ];

  it("has a word for every lightness, charred below all", () => {
    expect([90, 76.1, 76, 61.5, 36, 35, 3].map((l) => crustWord(words, l))).toEqual([
      "pale",
      "pale",
      "golden",
      "golden",
      "dark",
      "charred",
      "charred",
    ]);
  });

  it("has a colour inside its ramp however far the number", () => {
    const ramp = Array.from({ length: 101 }, (_, i) => `c${String(i)}`);
    expect([-5, 0, 49.6, 100, 250].map((l) => crustColour(ramp, l))).toEqual([
      "c0",
      "c0",
      "c50",
      "c100",
      "c100",
    ]);
    expect(crustColour([], 50)).toBe("#000000");
    expect(inkOn(80)).not.toBe(inkOn(20));
  });
});
