import type { Units } from "../../ui/units";
import { bakeTime } from "../../ui/time";
import type { Controls, Sentence } from "./types";

type Name = keyof Controls;

const NAMES: Partial<Record<Name, string>> = {
  setpoint_c: "dial",
  level: "level",
  preheat_min: "heating",
  fan: "fan",
  top_element: "top element",
  turn_s: "turn",
  shield: "shield",
  move: "move",
  hob_s: "start on the hob",
  par_bake_s: "topping later",
  cheese_s: "cheese later",
  hot_pan: "tray heated empty",
  paper_out_s: "paper out",
  overhead: "second deck",
};

/** One control as a cook reads it: "level 3", "top element 0:00 to 1:30", "no shield". */
export function controlSaid(name: Name, value: unknown, units: Pick<Units, "temp">): string {
  const word = NAMES[name] ?? name;
  if (value === null || value === undefined) return `no ${word}`;
  if (typeof value === "boolean") return `${word} ${value ? "on" : "off"}`;
  if (typeof value === "object") {
    const { on_s, off_s, at_s, level } = value as Record<string, number | undefined>;
    if (on_s !== undefined && off_s !== undefined) return `${word} ${bakeTime(on_s)} to ${bakeTime(off_s)}`;
    if (at_s !== undefined) return `${word} to level ${String(level)} at ${bakeTime(at_s)}`;
    return level === undefined ? word : `${word} on level ${String(level)}`;
  }
  if (name === "setpoint_c") return `${word} ${units.temp(Number(value))}`;
  if (name === "preheat_min") return `${word} ${String(value)} min`;
  return name.endsWith("_s") ? `${word} ${bakeTime(Number(value))}` : `${word} ${String(value)}`;
}

/** The controls that a cook sets first, in a few words. */
export function controlsSaid(controls: Controls, units: Pick<Units, "temp">): string {
  return (["setpoint_c", "level", "preheat_min"] as const)
    .map((name) => controlSaid(name, controls[name], units))
    .join(", ");
}

/** What a change of controls changes beside the one it is named for, old and new; empty where nothing was set. */
export function changedBeside(
  before: Controls,
  change: Partial<Controls>,
  named: string | undefined,
  units: Pick<Units, "temp">,
): string[] {
  if (named === undefined) return [];
  return (Object.keys(change) as Name[])
    .filter((name) => name !== named && before[name] != null)
    .filter((name) => JSON.stringify(before[name]) !== JSON.stringify(change[name]))
    .map(
      (name) => `${controlSaid(name, before[name], units)}, now ${controlSaid(name, change[name], units)}`,
    );
}

/** Parts of a sentence that go together; the first that a change has is what it is about. */
const TOGETHER: readonly (readonly (keyof Sentence)[])[] = [
  ["style", "own_style_id"],
  ["hearth_id"],
  ["surface_id", "pan_id"],
  ["diameter_cm", "pan_width_cm", "pan_depth_cm"],
  ["parchment", "parchment_limit_c", "release"],
];
const SAID: Partial<Record<keyof Sentence, string>> = {
  surface_id: "what it is baked on",
  pan_id: "what it is baked on",
  base: "the base you wanted",
  rim: "the rim you wanted",
  method: "the method",
  diameter_cm: "the size",
  pan_width_cm: "the size",
  pan_depth_cm: "the size",
  deck_reading_c: "the deck reading",
};

const ABOUT: Partial<Record<keyof Sentence, string>> = {
  style: "the style",
  own_style_id: "the style",
  hearth_id: "the oven",
  surface_id: "what it is baked on",
  pan_id: "what it is baked on",
  method: "the method",
};

const keysOf = (change: Partial<Sentence>) => Object.keys(change) as (keyof Sentence)[];

/** The parts of the sentence that a change is about. */
function aboutOf(change: Partial<Sentence>): readonly (keyof Sentence)[] {
  const keys = keysOf(change);
  return TOGETHER.find((group) => group.some((key) => keys.includes(key))) ?? keys;
}

/** What a change of the sentence is about, in words. */
export const aboutSaid = (change: Partial<Sentence>) => ABOUT[aboutOf(change)[0] ?? "people"] ?? "it";

/** What a change of the sentence changes beside the word it is about, where the cook had set something there. */
export function otherWords(before: Sentence, change: Partial<Sentence>): string[] {
  const about = aboutOf(change);
  const others = keysOf(change).filter(
    (key) => !about.includes(key) && before[key] != null && before[key] !== change[key],
  );
  return [...new Set(others.map((key) => SAID[key] ?? key))];
}
