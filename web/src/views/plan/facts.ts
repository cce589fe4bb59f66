import type { Choice } from "../../ui/Picker";
import { bakeTime } from "../../ui/time";
import type { useUnits } from "../../ui/units";
import type { Controls, PlanResult, Preview, SavedPlan, Sentence } from "./types";

/** A saved plan in the shape of a preview: exactly what was stored. */
export function asPreview(saved: SavedPlan): Preview {
  return {
    sentence: saved.sentence as Sentence,
    names: saved.names,
    under: saved.under,
    ask: saved.ask as Preview["ask"],
    result: saved.result as unknown as PlanResult,
  };
}

/** Records from the launch on: a hob start is told by its flag. */
export function afterLaunch<T extends { t_s: number[] }>(traces: T): T {
  const from = traces.t_s.findIndex((t) => t >= 0);
  if (from <= 0) return traces;
  return Object.fromEntries(
    Object.entries(traces).map(([key, values]) => [key, (values as number[]).slice(from)]),
  ) as T;
}

/** The methods this rig allows, with what the search made of each. */
export function methodChoices(result: PlanResult, options: PlanResult["plans"]): Choice<string | null>[] {
  return [
    { value: null, label: "what Mattone would choose" },
    ...result.methods.map((method) => {
      const option = options.find((o) => o.method === method);
      return {
        value: method,
        label: method,
        ...(option
          ? {
              note: `${option.word}, ${bakeTime(option.likely_done_s)}: base ${option.base_word}, rim ${option.rim_word}`,
            }
          : {}),
      };
    }),
  ];
}

/** A plan in words, fact by fact, to be compared with another. */
export function factsOf(
  played: Preview,
  c: Controls,
  support: string,
  units: ReturnType<typeof useUnits>,
): Record<string, string> {
  const { result } = played;
  const done = result.result.at_done;
  const at = (s: number | null | undefined) => (s == null ? "no" : bakeTime(s));
  return {
    style: played.names.style,
    hearth: played.names.hearth,
    on: support,
    by: result.method,
    level: String(c.level),
    at: units.temp(c.setpoint_c),
    preheat: `${String(c.preheat_min)} min`,
    fan: c.fan ? "on" : "off",
    element: c.top_element ? `${bakeTime(c.top_element.on_s)} to ${bakeTime(c.top_element.off_s)}` : "off",
    shield: at(c.shield?.on_s),
    move: c.move ? `to ${String(c.move.level)} at ${bakeTime(c.move.at_s)}` : "no",
    "par-bake": at(c.par_bake_s),
    "late cheese": at(c.cheese_s),
    "paper out": at(c.paper_out_s),
    hob: at(c.hob_s),
    "second deck": c.overhead ? `on ${String(c.overhead.level)}` : "no",
    topping: played.sentence.topping ?? "normal",
    deck: units.temp(result.result.deck_at_launch_c),
    base: done.base_word,
    rim: done.rim_word,
    crumb: `${done.crumb_word}, ${done.loss_pct.toFixed(0)} % lost`,
    crust: `${done.crisp_word} ${units.length(done.base_dry_mm)}`,
  };
}

/** Between what levels a pizza may stand: on its own side of a second deck, and below the level a shield takes. */
export function levelBounds(
  controls: Pick<Controls, "overhead" | "shield" | "level">,
  levels: number,
): readonly [number, number] {
  const second = controls.overhead?.level;
  if (second === undefined) return [1, controls.shield ? levels - 1 : levels];
  // Above one that it will go down onto a level stays free.
  return second < controls.level ? [second + 2, levels] : [1, second - 1];
}
