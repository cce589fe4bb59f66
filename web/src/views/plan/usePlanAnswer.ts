import { useEffect, useRef, useState } from "react";
import { Refusal } from "../../api/client";
import { useLast } from "../../ui/useLast";
import { asPreview } from "./facts";
import { withPlan } from "../../supper/draft";
import type { SupperAtHand } from "../../supper/useSupper";
import type { Draft, PlanResult } from "./types";
import { usePlayed } from "./usePlayed";

/** How the supper at hand is baked, and the engine's answer to it. */
export function usePlanAnswer(supper: SupperAtHand, first: Draft | null) {
  const saved = supper.saved?.plan ?? null;
  const { plan, dough } = supper.draft;
  const draft: Draft | null = plan
    ? { ...plan, name: supper.draft.name }
    : first && { ...first, name: supper.draft.name };
  const setDraft = (next: Draft) => {
    const { name, sentence, controls } = next;
    supper.change((was) => ({ ...withPlan(was, { sentence, controls }), name }));
  };
  const [dragging, setDragging] = useState(false);
  const spread = useRef({ look_from: 0.75, window_end: 1.35 });
  // A saved plan that nobody has touched is shown as it was stored, not played again.
  const untouched = supper.bakesAsSaved;
  const made = dough?.dough ?? null;
  const playing = usePlayed(untouched ? null : draft, made, saved?.id ?? null, dragging, spread.current);
  // A refusal leaves the last answer standing: the page must not move under the cook's fingers.
  const lastGood = useLast(
    playing.data && !playing.isPlaceholderData ? playing.data : null,
    saved ? asPreview(saved) : null,
  );
  const played = untouched && saved ? asPreview(saved) : (playing.data ?? lastGood ?? undefined);
  const refusal = !untouched && playing.error instanceof Refusal ? playing.error : null;
  const [reasons, setReasons] = useState<PlanResult["reasons"]>([]);
  // The methods as the last search weighed them; for a plan that is set already they are searched beside it.
  const [options, setOptions] = useState<PlanResult["plans"]>([]);
  const listed = options.length > 0 || untouched || draft?.controls == null;
  const others = usePlayed(
    listed ? null : { ...draft, controls: null },
    made,
    saved?.id ?? null,
    false,
    spread.current,
  );
  const searched = others.data && !others.isPlaceholderData ? others.data.result : null;
  useEffect(() => {
    if (searched) setOptions(searched.plans);
  }, [searched]);
  const full = played && played.result.reasons.length > 0 ? played.result : null;
  useEffect(() => {
    if (!full) return;
    setReasons(full.reasons);
    if (full.searched) setOptions(full.plans);
    const r = full.result;
    spread.current = {
      look_from: Math.min(1, r.look_from_s / r.likely_done_s),
      window_end: Math.min(5, Math.max(1, r.not_later_s / r.likely_done_s)),
    };
  }, [full]);
  const stale =
    dragging ||
    playing.isPlaceholderData ||
    playing.isFetching ||
    (!untouched && playing.behind) ||
    (refusal !== null && playing.data === undefined);
  return {
    draft,
    untouched,
    setDraft,
    played,
    refusal,
    reasons,
    options,
    stale,
    setDragging,
    again: () => void playing.refetch(),
  };
}
