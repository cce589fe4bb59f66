import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { styleOf } from "../../ui/planDraft";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { partPath } from "../../supper/draft";
import type { SupperAtHand } from "../../supper/useSupper";
import { afterLaunch, factsOf } from "./facts";
import type { Draft, Kitchen } from "./types";
import { usePlanAnswer } from "./usePlanAnswer";
import { usePlanControls, usePlanKeys } from "./usePlanControls";
import { usePlanSaving } from "./usePlanSaving";
import { thinned, usePins } from "./usePins";

/** Everything the plan's desk knows and does; what is drawn of it is PlanDesk's. */
export function usePlanDesk({
  supper,
  styles,
  kitchen,
  first,
}: {
  supper: SupperAtHand;
  styles: readonly StyleLine[];
  kitchen: Kitchen;
  first: Draft | null;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const desk = usePlanAnswer(supper, first);
  const { draft, played } = desk;
  const [handle, setHandle] = useState<number | null>(null);
  const pins = usePins(supper.owner);
  const [comparing, setComparing] = useState(false);
  const style = styleOf(draft?.sentence, styles);
  const support =
    kitchen.pans.find((p) => p.id === draft?.sentence.pan_id)?.name ??
    kitchen.surfaces.find((s) => s.id === draft?.sentence.surface_id)?.name ??
    played?.names.surface ??
    played?.names.pan ??
    "";
  const moves = usePlanControls(draft, played, desk.setDraft, () => {
    setHandle(null);
  });
  const { controls } = moves;
  const told = played?.result.result;
  const traces = useMemo(() => (told ? afterLaunch(told.traces) : undefined), [told]);
  const end = traces?.t_s.at(-1) ?? 600;
  const at = Math.max(0, Math.min(end, handle ?? told?.likely_done_s ?? 0));
  const saving = usePlanSaving(supper, desk, controls);
  const pin = () => {
    if (!draft || !controls || !played || !told) return;
    pins.pin({
      facts: factsOf(played, controls, support, units),
      draft: { ...draft, controls },
      controls,
      word: played.result.word,
      doneS: told.likely_done_s,
      lookS: told.look_from_s,
      lateS: told.not_later_s,
      ...thinned(played.result),
    });
    setComparing(true);
  };
  usePlanKeys(moves, { at, end, to: setHandle }, pin, saving.doSave);
  // The dough is made for the plan that is shown, by the controls that are shown: its minutes stay what was read here.
  const makeDough = () => {
    if (draft) desk.setDraft({ ...draft, controls });
    void navigate(partPath(supper.place, "dough"));
  };
  return {
    ...desk,
    ...moves,
    supper,
    saved: supper.saved?.plan ?? null,
    saving,
    style,
    title: supper.draft.name || supper.usual,
    traces,
    moment: { at, end, to: setHandle },
    pins: { ...pins, comparing, pin, compare: setComparing },
    makeDough,
  };
}

export type Desk = ReturnType<typeof usePlanDesk>;
/** The desk once there is something to show. */
export type Laid = Desk & { draft: Draft } & {
  [key in "played" | "traces" | "controls"]: NonNullable<Desk[key]>;
};
