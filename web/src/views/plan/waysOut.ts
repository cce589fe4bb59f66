import type { Draft, Sentence } from "./types";
import type { WayOut } from "./Refused";

/** Controls that baking paper forbids or limits. */
const LIMITED_BY_PAPER = ["sentence.parchment", "parchment", "controls.setpoint_c", "controls.top_element"];

/** What would make a refused plan possible: without its paper, with other controls, by any method. Empty where nothing here would. */
export function waysOut(
  path: string,
  draft: Pick<Draft, "sentence" | "controls">,
  change: (to: Partial<Sentence>, fresh: boolean) => void,
  choose: () => void,
): WayOut[] {
  const found: WayOut[] = [];
  if (draft.controls && path.startsWith("controls."))
    found.push({ text: "Let Mattone choose the controls", take: choose });
  if (draft.sentence.parchment && LIMITED_BY_PAPER.includes(path))
    found.push({
      text: "Leave the paper out",
      take: () => {
        change({ parchment: false }, false);
      },
    });
  if (path === "methods" && draft.sentence.method)
    found.push({
      text: "Use any method",
      take: () => {
        change({ method: null }, true);
      },
    });
  return found;
}
