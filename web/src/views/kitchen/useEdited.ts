import { hearthKind, type Kinds } from "../../ui/kinds";
import { numberIn } from "../../ui/numbers";
import { numbersOf, switchesOf } from "./fields";
import type { Noun, Values } from "./things";

/** A thing's figures as texts, all in the units they are kept in. */
function typedOf(values: Values): Typed {
  const start: Typed = {};
  for (const [key, value] of Object.entries(values))
    start[key] = typeof value === "boolean" ? value : value === null ? "" : String(value);
  return start;
}

/** A thing's figures as they are being typed, and what they come to. */
export type Typed = Record<string, string | boolean>;

export function useEdited(
  noun: Noun,
  kinds: Kinds,
  values: Values,
  draft: Typed | null,
  keep: (typed: Typed) => void,
) {
  const typed = draft ?? typedOf(values);
  const kind = String(typed["kind"] ?? "");
  // Whether a pan is round is usual for its kind, until its cook says otherwise.
  const kept =
    noun === "pans" && typeof typed["is_round"] !== "boolean"
      ? { ...typed, is_round: kinds.pans.find((k) => k.key === kind)?.round === true }
      : typed;
  const heat = noun === "hearths" ? hearthKind(kinds, kind) : undefined;
  const numbers = numbersOf(noun, heat, noun === "pans" && kept["is_round"] === true, kind);
  const switches = switchesOf(noun, heat);
  const set = (key: string, value: string | boolean) => {
    // A round is as deep as it is wide, until its cook says that it is an oval.
    const both =
      noun === "pans" &&
      kept["is_round"] === true &&
      key === "width_cm" &&
      kept["depth_cm"] === kept["width_cm"];
    keep({ ...typed, [key]: value, ...(both ? { depth_cm: value } : {}) });
  };
  const numberOf = (key: string) => numberIn(String(kept[key] ?? ""));
  const notNumbers = numbers.filter(({ key, open }) => {
    const number = numberOf(key);
    return number === null ? open !== true : Number.isNaN(number);
  });
  const edited = (): Values => {
    const next: Record<string, unknown> = { ...values, name: kept["name"], kind };
    // A tool is known by the one measure of its kind.
    if (noun === "tools") Object.assign(next, { volume_l: null, holds_g: null, limit_c: null });
    for (const { key } of numbers) next[key] = numberOf(key);
    for (const [key] of switches) next[key] = kept[key];
    // What this kind has not is not sent along from the kind it was.
    if (heat && heat.heat !== "dial")
      Object.assign(next, { levels: 1, has_fan: false, top_element_kw: 0, top_element_usable: false });
    if (heat && heat.heat !== "fire" && Number(next["max_setpoint_c"]) > 350)
      if (!numbers.some(({ key }) => key === "max_setpoint_c")) next["max_setpoint_c"] = 250;
    return next as unknown as Values;
  };
  return { kept, set, numbers, switches, notNumbers, edited };
}
