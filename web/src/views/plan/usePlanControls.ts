import { useShortcut } from "../../app/useShortcut";
import { useUndo } from "../../app/Undo";
import { useUnits } from "../../ui/units";
import { aboutSaid, changedBeside, controlsSaid, otherWords } from "./controlWords";
import { levelBounds } from "./facts";
import type { Controls, Draft, Preview, Sentence } from "./types";

const LEAST_DIAL_C = 100;

/** What a cook changes on the desk: the sentence, the hearth's controls. */
export function usePlanControls(
  draft: Draft | null,
  played: Preview | undefined,
  setDraft: (draft: Draft) => void,
  forgetMoment: () => void,
) {
  const units = useUnits();
  const offerUndo = useUndo();
  const controls: Controls | null = draft?.controls ?? played?.result.controls ?? null;
  const hearth = played?.ask.hearth;
  const levels = hearth?.levels ?? 5;
  const change = (sentence: Partial<Sentence>, fresh: boolean) => {
    if (!draft) return;
    if (fresh) forgetMoment();
    const next = { ...draft.sentence, ...sentence };
    setDraft({ ...draft, sentence: next, controls: fresh ? null : draft.controls });
    const said = [
      ...(fresh && draft.controls ? [`your controls (${controlsSaid(draft.controls, units)})`] : []),
      ...otherWords(draft.sentence, sentence),
    ];
    if (said.length) offerBack(`Changed with ${aboutSaid(sentence)}: ${said.join(", ")}.`);
  };
  const offerBack = (text: string) => {
    if (draft)
      offerUndo({
        text,
        undo: () => {
          setDraft(draft);
        },
      });
  };
  /** Set controls; what a handling changes beside the one it is named for is said, and can be undone. */
  const control = (next: Partial<Controls>, named?: string) => {
    if (!draft || !controls) return;
    setDraft({ ...draft, controls: { ...controls, ...next } });
    const beside = changedBeside(controls, next, named, units);
    if (beside.length) offerBack(`Changed with it: ${beside.join("; ")}.`);
  };
  const fire = played?.result.fire;
  const coolest = fire?.lowest_c ?? LEAST_DIAL_C;
  const hottest = fire?.hottest_c ?? hearth?.max_setpoint_c ?? 275;
  return {
    controls,
    change,
    control,
    chooseControls: () => {
      if (!draft?.controls) return;
      forgetMoment();
      setDraft({ ...draft, controls: null });
      offerBack(`You had set ${controlsSaid(draft.controls, units)}. Mattone chooses now.`);
    },
    toLevel: (level: number) => {
      if (!controls) return;
      const [lowest, highest] = levelBounds(controls, levels);
      if (level < lowest || level > highest) return;
      control(controls.move?.level === level ? { level, move: null } : { level }, "level");
    },
    toggleTop: () => {
      if (!hearth || played.result.fire) return;
      if (hearth.top_element_usable === false || (hearth.top_element_kw ?? 0) <= 0) return;
      control({ top_element: controls?.top_element ? null : { on_s: 0, off_s: 90 } }, "top_element");
    },
    toggleFan: () => {
      if (hearth?.has_fan && !played?.result.fire && hearth.fan_can_be_off !== false)
        control({ fan: !(controls?.fan ?? false) });
    },
    preheat: (minutes: number) => {
      control({ preheat_min: Math.max(5, Math.min(150, minutes)) });
    },
    dialBounds: [coolest, hottest] as const,
    /** The dial, or over a fire its launch temperature, to any degree it can be set to. */
    setDial: (celsius: number) => {
      control({ setpoint_c: Math.max(coolest, Math.min(hottest, celsius)) });
    },
  };
}

/** The desk by keyboard: the moment shown, levels, element, fan, preheat, pin, save. */
export function usePlanKeys(
  moves: ReturnType<typeof usePlanControls>,
  moment: { at: number; end: number; to: (at: number) => void },
  onPin: () => void,
  onSave: () => void,
): void {
  const { controls } = moves;
  useShortcut(["/", ",", ".", "<", ">", "ArrowUp", "ArrowDown", "t", "f", "[", "]", "s", "p"], (key, e) => {
    if (e.target instanceof Element && e.target.closest("[role=dialog],[role=listbox]")) return;
    if (
      key.startsWith("Arrow") &&
      e.target instanceof Element &&
      e.target.closest("[role=slider],[role=tab],[role=tabpanel],button")
    )
      return;
    e.preventDefault();
    const { at, end, to } = moment;
    if (key === "/") document.getElementById("sentence")?.focus();
    else if (key === "," || key === "<") to(Math.max(0, at - (key === "<" ? 60 : 15)));
    else if (key === "." || key === ">") to(Math.min(end, at + (key === ">" ? 60 : 15)));
    else if (key === "ArrowUp") moves.toLevel((controls?.level ?? 1) + 1);
    else if (key === "ArrowDown") moves.toLevel((controls?.level ?? 1) - 1);
    else if (key === "t") moves.toggleTop();
    else if (key === "f") moves.toggleFan();
    else if (key === "[") moves.preheat((controls?.preheat_min ?? 45) - 5);
    else if (key === "]") moves.preheat((controls?.preheat_min ?? 45) + 5);
    else if (key === "p") onPin();
    else onSave();
  });
}
