import { describe, expect, it, vi } from "vitest";
import { crustColour, crustWord, inkOn } from "./crust";
import { plain } from "./Figure";
import { allIn, fahrenheit, keptSystems, shownIn, unitsOf, type Systems } from "./units";

const metric = unitsOf(allIn("metric"), () => undefined);
const us = unitsOf(allIn("us"), () => undefined);

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

  it("say a dial as it was set, in Fahrenheit, too", () => {
    const us = unitsOf(allIn("us"), () => undefined);
    for (let dial = 150; dial <= 930; dial++) {
      const kept = shownIn(allIn("us"), "°C").kept(dial);
      expect(us.temp(kept)).toBe(`${String(dial)} °F`);
      // As the engine's sentences have it, to a tenth.
      expect(us.say(`dial at {${String(Math.round(kept * 10) / 10)} C}`)).toBe(`dial at ${String(dial)} °F`);
    }
  });

  it("keep differences apart from temperatures", () => {
    expect(us.temp(0)).toBe("32 °F");
    expect(us.tempDifference(0)).toBe("0 °F");
    expect(fahrenheit(-40)).toBe(-40);
  });
});

describe("each quantity by itself", () => {
  const mixed: Systems = { ...allIn("metric"), temperature: "us" };

  it("Fahrenheit with grams: every figure, field and sentence", () => {
    const units = unitsOf(mixed, () => undefined);
    expect(units.say("{250 C}, {8 K}, {10 mm}, {30 cm}, {500 g}, {2 l}")).toBe(
      "482 °F, 14 °F, 10 mm, 30 cm, 500 g, 2.0 l",
    );
    expect(["°C", "K", "mm", "cm", "kg", "g", "l", "m", "cm²"].map((u) => units.as(u).unit)).toEqual([
      "°F",
      "°F",
      "mm",
      "cm",
      "kg",
      "g",
      "l",
      "m",
      "cm²",
    ]);
    expect(unitsOf({ ...allIn("metric"), mass: "us" }, () => undefined).say("{250 C}, {500 g}")).toBe(
      "250 °C, 17.6 oz",
    );
  });

  it("is kept as it was chosen, and nonsense is metric", () => {
    for (const [kept, found] of [
      ["us", allIn("us")],
      ["metric", allIn("metric")],
      [JSON.stringify(mixed), mixed],
      ['{"temperature":"us"}', mixed],
      ["{", allIn("metric")],
      ['{"mass":"stone"}', allIn("metric")],
    ] as const) {
      vi.stubGlobal("localStorage", { getItem: () => kept });
      expect(keptSystems()).toEqual(found);
    }
    vi.unstubAllGlobals();
  });
});

describe("a kept number", () => {
  it("is what it was after being shown and typed in any unit", () => {
    for (const system of ["metric", "us"] as const)
      for (const unit of ["°C", "K", "mm", "cm", "kg", "g", "l", "m", "g/cm²", "cm²", "kW", ""])
        for (const value of [-40, 0, 0.35, 37, 216, 1900]) {
          const { shown, kept } = shownIn(allIn(system), unit);
          expect(kept(shown(value))).toBeCloseTo(value, 9);
        }
  });

  it("goes by the units of its system, and keeps those there is no other for", () => {
    const units = ["°C", "K", "mm", "kg", "l", "m", "g/cm²", "cm²", "kW"].map(
      (u) => shownIn(allIn("us"), u).unit,
    );
    expect(units).toEqual(["°F", "°F", "in", "lb", "qt", "ft", "g/in²", "in²", "kW"]);
    expect(shownIn(allIn("us"), "g/cm²").shown(0.4)).toBeCloseTo(2.58, 2);
    expect(shownIn(allIn("us"), "°C").shown(204.4444)).toBeCloseTo(400, 3);
    expect(shownIn(allIn("metric"), "K").unit).toBe("°C");
  });

  it("is told in grams where an ounce is too coarse", () => {
    expect(us.mass(3.16)).toBe("3.16 g");
    expect(us.mass(500)).toBe("17.6 oz");
    expect(metric.mass(0.42)).toBe("0.42 g");
    expect(metric.mass(500)).toBe("500 g");
    expect(us.volume(2.84)).toBe("3.0 qt");
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
