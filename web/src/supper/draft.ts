import type { Schemas } from "../api/client";
import { ownStorage } from "../api/locker";
import { readDraft, writeDraft } from "../ui/drafts";
import type { Controls, Sentence } from "../ui/planDraft";
import type { Listed } from "../ui/styles";
import type { DoughInput, DoughPart, PlanPart, SavedSupper, SupperDraft, Words } from "./types";

export const EMPTY: SupperDraft = { name: "", words: null, dough: null, plan: null };
export const NEW = "new";

/** Where the draft of a supper is kept in this browser; the place is a saved one's id, or "new". */
export const draftKey = (owner: string, place: string) => `whole supper ${owner} ${place}`;

/** Where a part of a supper is shown. */
export const partPath = (place: string | number, part: string) => `/supper/${String(place)}/${part}`;

/** How a saved plan bakes, whether it is a supper's own or a setup. */
export function planPartOf(plan: Listed<Schemas["PlanOut"]>): PlanPart {
  return {
    sentence: plan.sentence as unknown as Sentence,
    controls: (plan.result as { controls: Controls }).controls,
  };
}

/** What a saved supper says, as a draft. */
export function draftOf({ name, words, dough, plan }: SavedSupper): SupperDraft {
  return {
    name,
    words: words ?? null,
    dough: dough ? { name: dough.name, dough: dough.dough, mixedAt: dough.mixed_at ?? null } : null,
    plan: plan ? planPartOf(plan) : null,
  };
}

/** A dough as a question: only what its own style is made of is told apart by types. */
export const doughAsked = (dough: DoughInput) => dough as Schemas["DoughInput"];

/** A supper as the server is asked about it, or given it to save. */
export function asked(draft: SupperDraft, supperId: number | null): Schemas["SupperParts"] {
  const { words, dough, plan } = draft;
  return {
    words: words as Schemas["SupperWords"] | null,
    dough: dough ? { name: dough.name, dough: doughAsked(dough.dough), mixed_at: dough.mixedAt } : null,
    plan,
    supper_id: supperId,
  };
}

/** Whether its plan and the dough it is baked with are as they were saved: what was seen of a dough does not change its bake. */
export function bakesAsSaved(draft: SupperDraft, saved: SavedSupper | null): boolean {
  if (!saved?.plan) return false;
  const before = draftOf(saved);
  const bakedOf = (one: SupperDraft) =>
    JSON.stringify([one.plan, one.dough && [one.dough.dough.formula, one.dough.dough.steps]]);
  return bakedOf(draft) === bakedOf(before);
}

/** The pieces that are baked with the rest; null where several lots are, each with a number of its own. */
export function onePile(dough: DoughInput): number | null {
  const tonight = dough.formula.pieces.filter((piece) => !piece.way?.length);
  return tonight.length === 1 ? (tonight[0]?.count ?? 1) : null;
}

/** How many pizzas several lots make tonight; null where there is one lot, whose number the supper has. */
export function tonight(dough: DoughInput): number | null {
  const lots = dough.formula.pieces.filter((piece) => !piece.way?.length);
  if (lots.length < 2) return null;
  return Math.min(
    MOST_PIZZAS,
    lots.reduce((sum, lot) => sum + (lot.count ?? 1), 0),
  );
}

/**
 * So many pizzas: the number stands in the words and in the dough's one pile alike. Several lots are left as they are: which of them
 * would grow is not said.
 */
export function withPizzas(draft: SupperDraft, words: Words, pizzas: number): SupperDraft {
  const { dough } = draft;
  const next = { ...draft, words: { ...words, pizzas } };
  if (!dough || onePile(dough.dough) === null) return next;
  const pieces = dough.dough.formula.pieces.map((piece) =>
    piece.way?.length ? piece : { ...piece, count: pizzas },
  );
  return {
    ...next,
    dough: { ...dough, dough: { ...dough.dough, formula: { ...dough.dough.formula, pieces } } },
  };
}

/** Another dough: the number of pizzas follows its one pile, where the cook has said a number already. */
export function withDough(draft: SupperDraft, dough: DoughPart): SupperDraft {
  const before = draft.dough ? onePile(draft.dough.dough) : null;
  const after = onePile(dough.dough);
  const counted =
    draft.words && after !== null && before !== null && after !== before && after <= MOST_PIZZAS;
  return { ...draft, dough, words: counted && draft.words ? { ...draft.words, pizzas: after } : draft.words };
}

export const MOST_PIZZAS = 12;

/** The same supper, baked so. A style that is changed here is the style of its dough, too. */
export function withPlan(draft: SupperDraft, plan: PlanPart): SupperDraft {
  const { style } = plan.sentence;
  const dough = draft.dough;
  const changed =
    draft.plan !== null && draft.plan.sentence.style !== style && plan.sentence.own_style_id == null;
  if (!dough || !changed || !style) return { ...draft, plan };
  const formula = { ...dough.dough.formula, style, own_style: null };
  return { ...draft, plan, dough: { ...dough, dough: { ...dough.dough, formula } } };
}

/** When the first pizza is eaten, as a clock says it: by the supper's date, else as its plan was asked for. */
export function eatenAt(draft: SupperDraft, sentence: Sentence): string {
  return draft.words?.serve_at.slice(11, 16) ?? sentence.serve_at ?? "19:30";
}

/** The same day at another time. */
export function withTime(draft: SupperDraft, time: string): SupperDraft {
  const { words } = draft;
  return words
    ? { ...draft, words: { ...words, serve_at: `${words.serve_at.slice(0, 10)}T${time}` } }
    : draft;
}

/**
 * Another programme changes the hours alone: the yeast stays as the dough has it, or as the cook set it. Only where there is no dough is
 * it worked out for the hours.
 */
export function programmed(key: string, words: Pick<Words, "yeast_pct">, hasDough: boolean): Partial<Words> {
  const programme = key as Words["programme"];
  if (!hasDough) return { programme, yeast: "solve", yeast_pct: null };
  return words.yeast_pct == null ? { programme, yeast: "as_is" } : { programme };
}

/** The same supper with other words; `start` where it has none yet. */
export const withWords = (draft: SupperDraft, start: Words, to: Partial<Words>): SupperDraft => ({
  ...draft,
  words: { ...(draft.words ?? start), ...to },
});

/** What a sentence says of its rig and crust is not kept for another style; nor are the controls that were set for it. */
export const OTHER_STYLE = {
  base: null,
  rim: null,
  method: null,
  diameter_cm: null,
  pan_width_cm: null,
  pan_depth_cm: null,
} satisfies Partial<Sentence>;
const OTHER_RIG = {
  method: null,
  pan_width_cm: null,
  pan_depth_cm: null,
  deck_reading_c: null,
} satisfies Partial<Sentence>;

/** What a pizza is baked in and on. */
export interface RigIds {
  hearth_id: number;
  surface_id?: number | null;
  pan_id?: number | null;
}

/** Baked on another rig, by controls of its own. */
export const withRig = (draft: SupperDraft, plan: PlanPart, { hearth_id, surface_id, pan_id }: RigIds) =>
  withPlan(draft, {
    sentence: {
      ...plan.sentence,
      ...OTHER_RIG,
      hearth_id,
      surface_id: surface_id ?? null,
      pan_id: pan_id ?? null,
    },
    controls: null,
  });

/** Another style, of plan and dough alike; where its rig is no place for it, on the first that is. */
export function withStyle(
  draft: SupperDraft,
  style: { key: string; ownId: number | null },
  plan: PlanPart | null,
  places: readonly RigIds[],
): SupperDraft {
  const key = style.key as NonNullable<Sentence["style"]>;
  const named = style.ownId === null ? { style: key, own_style_id: null } : { own_style_id: style.ownId };
  if (!plan) {
    const { dough } = draft;
    if (!dough) return draft;
    const formula = { ...dough.dough.formula, style: key, own_style: null };
    return { ...draft, dough: { ...dough, dough: { ...dough.dough, formula } } };
  }
  const { hearth_id, surface_id, pan_id } = plan.sentence;
  const stays = places.some(
    (rig) =>
      rig.hearth_id === hearth_id &&
      (rig.surface_id ?? null) === (surface_id ?? null) &&
      (rig.pan_id ?? null) === (pan_id ?? null),
  );
  const sentence = { ...plan.sentence, ...OTHER_STYLE, ...named };
  const restyled = withPlan({ ...draft, plan: draft.plan ?? plan }, { sentence, controls: null });
  const first = places[0];
  return stays || !first || !restyled.plan ? restyled : withRig(restyled, restyled.plan, first);
}

/** The new supper of this browser begins with this; what else it has stays. */
export function beginWith(owner: string, part: Partial<SupperDraft>): void {
  const key = draftKey(owner, NEW);
  const there = readDraft<SupperDraft>(key, null)?.value ?? EMPTY;
  writeDraft(key, { version: null, value: { ...there, ...part } });
}

/** Whether a new supper was begun in this browser. */
export const newIsBegun = (owner: string) => ownStorage.getItem(draftKey(owner, NEW)) !== null;
