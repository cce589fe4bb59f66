import { describe, expect, it, vi } from "vitest";
import { aboutSaid, changedBeside, controlSaid, otherWords } from "./controlWords";
import { newDraft, type Controls, type Sentence } from "./types";
import { waysOut } from "./waysOut";

const rig = { hearth_id: 1, surface_id: 2, pan_id: null };
const CONTROLS: Controls = { setpoint_c: 250, level: 3, preheat_min: 45 } as Controls;
const units = { temp: (celsius: number) => `${String(celsius)} °C` };

function offered(path: string, sentence: Partial<Sentence>, controls: Controls | null) {
  const draft = newDraft("thin_crisp", rig);
  const change = vi.fn();
  const choose = vi.fn();
  const ways = waysOut(path, { sentence: { ...draft.sentence, ...sentence }, controls }, change, choose);
  return { ways, change, choose };
}

describe("ways out of a refused plan", () => {
  it("a dial above the limit of the paper: other controls, or no paper; the dial itself is left alone", () => {
    const { ways, change, choose } = offered("controls.setpoint_c", { parchment: true }, CONTROLS);
    expect(ways.map((way) => way.text)).toEqual(["Let Mattone choose the controls", "Leave the paper out"]);
    ways[1]?.take();
    expect(change).toHaveBeenCalledWith({ parchment: false }, false);
    ways[0]?.take();
    expect(choose).toHaveBeenCalledOnce();
  });

  it("a method that does not brown: any method", () => {
    expect(offered("methods", { method: "shield" }, null).ways.map((way) => way.text)).toEqual([
      "Use any method",
    ]);
  });

  it.each(["", "sentence.hearth_id", "sentence.style"])(
    "nothing is offered that would not help: %j",
    (path) => {
      expect(offered(path, { parchment: true }, CONTROLS).ways).toEqual([]);
    },
  );
});

describe("what a word of the sentence changes with it", () => {
  const { sentence } = newDraft("thin_crisp", rig);

  it("another style that lets a wish and a rig go says so", () => {
    const before = { ...sentence, base: "dark" as const, diameter_cm: 33 };
    const change = {
      style: "focaccia" as const,
      own_style_id: null,
      base: null,
      diameter_cm: null,
      surface_id: null,
      pan_id: 4,
    };
    expect(aboutSaid(change)).toBe("the style");
    expect(otherWords(before, change)).toEqual(["the base you wanted", "the size", "what it is baked on"]);
  });

  it("a change of one word says nothing", () => {
    expect(otherWords(sentence, { surface_id: 9, pan_id: null, method: null })).toEqual([]);
    expect(otherWords(sentence, { people: 3 })).toEqual([]);
    expect(otherWords(sentence, { parchment: true, parchment_limit_c: 220 })).toEqual([]);
  });
});

describe("what a handling changes with it", () => {
  const before = { ...CONTROLS, top_element: { on_s: 0, off_s: 90 }, fan: true } as Controls;

  it("is said with its old and new value", () => {
    const change = { shield: { on_s: 100, off_s: 400 }, top_element: null };
    expect(changedBeside(before, change, "shield", units)).toEqual([
      "top element 0:00 to 1:30, now no top element",
    ]);
  });

  it("is nothing where the change names all that it changes", () => {
    expect(changedBeside(before, { top_element: null }, "top_element", units)).toEqual([]);
    expect(changedBeside(before, { setpoint_c: 240 }, undefined, units)).toEqual([]);
    expect(changedBeside(before, { shield: null, fan: true }, "shield", units)).toEqual([]);
  });

  it("each control has words of its own", () => {
    expect(controlSaid("setpoint_c", 250, units)).toBe("dial 250 °C");
    expect(controlSaid("move", { at_s: 200, level: 2 }, units)).toBe("move to level 2 at 3:20");
    expect(controlSaid("fan", false, units)).toBe("fan off");
    expect(controlSaid("overhead", { kind: "steel", level: 4 }, units)).toBe("second deck on level 4");
  });
});
