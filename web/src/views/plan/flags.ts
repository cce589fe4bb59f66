import type { Flag } from "../../ui/stripTypes";
import type { Controls } from "./types";

/** What the cook does and when, as flags of the strip; dragging one changes the controls. */
export function flagsOf(controls: Controls, end: number, set: (next: Partial<Controls>) => void): Flag[] {
  const flags: Flag[] = [];
  const spans = [
    ["top_element", "top", "element", -600],
    ["shield", "shield", "shield", 15],
  ] as const;
  for (const [key, name, word, min] of spans) {
    const span = controls[key];
    if (!span) continue;
    flags.push({
      key: `${name}-on`,
      name: `${word} on`,
      atS: span.on_s,
      min,
      max: span.off_s - 15,
      onMove: (on_s) => {
        set({ [key]: { ...span, on_s } });
      },
    });
    // A shield stays to the end; only an element is switched off again.
    if (key === "top_element")
      flags.push({
        key: "top-off",
        name: "element off",
        atS: span.off_s,
        min: span.on_s + 15,
        max: end,
        onMove: (off_s) => {
          set({ top_element: { ...span, off_s } });
        },
      });
  }
  const moments = [
    ["turn_s", "turn", "turn"],
    ["par_bake_s", "topping", "top it"],
    ["cheese_s", "cheese", "cheese on"],
    ["flip_s", "flip", "flip, top it"],
    ["paper_out_s", "paper", "paper out"],
  ] as const;
  for (const [key, name, word] of moments) {
    const at = controls[key];
    if (at == null) continue;
    flags.push({
      key: name,
      name: word,
      atS: at,
      min: 10,
      max: end,
      onMove: (next) => {
        set({ [key]: next });
      },
    });
  }
  const move = controls.move;
  if (move)
    flags.push({
      key: "move",
      name: `to level ${String(move.level)}`,
      atS: move.at_s,
      min: 10,
      max: end,
      onMove: (at_s) => {
        set({ move: { ...move, at_s } });
      },
    });
  const hob = controls.hob_s;
  if (hob != null)
    flags.push({
      key: "hob",
      name: "on the hob",
      atS: -hob,
      min: -480,
      max: -10,
      onMove: (at) => {
        set({ hob_s: -at });
      },
    });
  return flags;
}
