import { useEffect, useRef, useState } from "react";
import { Refusal } from "../../api/client";
import { useLast } from "../../ui/useLast";
import { asPreview } from "./facts";
import type { Draft, PlanResult, SavedPlan, Sentence } from "./types";
import { useDraft } from "./useDraft";
import { usePlayed } from "./usePlayed";

/** What a saved plan says, as a draft. */
export function draftOf(saved: SavedPlan): Draft {
  return {
    sentence: saved.sentence as Sentence,
    controls: (saved.result as unknown as PlanResult).controls,
    name: saved.name,
  };
}

/** The draft on the desk and the engine's answer to it. */
export function usePlanAnswer(owner: string, saved: SavedPlan | null, first: Draft | null) {
  const [kept, setDraft, leave, began] = useDraft(owner, saved?.id ?? null, saved?.version ?? null);
  const draft = kept ?? (saved ? draftOf(saved) : first);
  const [dragging, setDragging] = useState(false);
  const spread = useRef({ look_from: 0.75, window_end: 1.35 });
  // A saved plan that nobody has touched is shown as it was stored, not played again.
  const untouched = saved !== null && kept === null;
  const playing = usePlayed(untouched ? null : draft, saved?.id ?? null, dragging, spread.current);
  // A refusal leaves the last answer standing: the page must not move under the cook's fingers.
  const lastGood = useLast(
    playing.data && !playing.isPlaceholderData ? playing.data : null,
    saved ? asPreview(saved) : null,
  );
  const played = untouched ? asPreview(saved) : (playing.data ?? lastGood ?? undefined);
  const refusal = !untouched && playing.error instanceof Refusal ? playing.error : null;
  const [reasons, setReasons] = useState<PlanResult["reasons"]>([]);
  // The methods as the last search weighed them; for a plan that is set already they are searched beside it.
  const [options, setOptions] = useState<PlanResult["plans"]>([]);
  const listed = options.length > 0 || untouched || draft?.controls == null;
  const others = usePlayed(
    listed ? null : { ...draft, controls: null },
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
    kept,
    began,
    untouched,
    setDraft,
    leave,
    played,
    refusal,
    reasons,
    options,
    stale,
    setDragging,
    again: () => void playing.refetch(),
  };
}
