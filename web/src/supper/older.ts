import { ownStorage } from "../api/locker";
import { readDraft, writeDraft } from "../ui/drafts";
import type { Controls, Sentence } from "../ui/planDraft";
import { draftKey, draftOf, EMPTY, NEW } from "./draft";
import type { DoughInput, SavedSupper, SupperDraft, Words } from "./types";

interface OlderPlan {
  name?: string;
  sentence: Sentence & { dough_id?: unknown };
  controls: Controls | null;
}
interface OlderDough {
  name?: string;
  dough: DoughInput;
  mixedAt?: string | null;
}
interface OlderSupper {
  name?: string;
  words: Words & { dough_id?: unknown; plan_id?: unknown };
}

/**
 * What a page of before 0.12 left unsaved of this supper, of its dough and of its plan: each had a draft of its own. They become one,
 * and are not asked for again.
 */
export function adoptOlderDrafts(owner: string, saved: SavedSupper | null): void {
  const id = (of: { id: number } | null | undefined) => (saved ? (of ? String(of.id) : null) : NEW);
  const at = (kind: string, row: string | null) => (row === null ? null : `${kind} ${owner} ${row}`);
  const planKey = at("draft", id(saved?.plan));
  const doughKey = at("dough", saved ? id(saved.dough) : "new ");
  const supperKey = at("supper", saved ? id(saved) : "new  ");
  const read = <T>(key: string | null) => (key === null ? null : (readDraft<T>(key, null)?.value ?? null));
  const plan = read<OlderPlan>(planKey);
  const dough = read<OlderDough>(doughKey);
  const supper = read<OlderSupper>(supperKey);
  if (!plan && !dough && !supper) return;
  const whole: SupperDraft = { ...(saved ? draftOf(saved) : EMPTY) };
  if (typeof plan?.sentence === "object") {
    const { dough_id: _, ...sentence } = plan.sentence;
    whole.plan = { sentence, controls: plan.controls ?? null };
    whole.name = plan.name ?? whole.name;
  }
  if (typeof dough?.dough === "object")
    whole.dough = { name: dough.name ?? "", dough: dough.dough, mixedAt: dough.mixedAt ?? null };
  if (typeof supper?.words === "object") {
    const { dough_id: _dough, plan_id: _plan, ...words } = supper.words;
    whole.words = words;
    whole.name = supper.name ?? whole.name;
  }
  const key = draftKey(owner, saved ? String(saved.id) : NEW);
  // What this page has of it already is newer.
  if (ownStorage.getItem(key) === null) writeDraft(key, { version: saved?.version ?? null, value: whole });
  for (const one of [planKey, doughKey, supperKey]) if (one !== null) ownStorage.removeItem(one);
}
