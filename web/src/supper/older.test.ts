import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { closeLocker, openLocker, ownStorage } from "../api/locker";
import { readDraft, writeDraft } from "../ui/drafts";
import { draftKey, NEW } from "./draft";
import { adoptOlderDrafts } from "./older";
import type { SavedSupper, SupperDraft } from "./types";

const OWNER = "7";

beforeEach(() => {
  openLocker(OWNER, "keeper@skerry-light.example", "ab".repeat(32));
});
afterEach(() => {
  closeLocker();
});

const kept = (place: string) => readDraft<SupperDraft>(draftKey(OWNER, place), null);
const put = (key: string, value: object, version: number | null = null) => {
  writeDraft(key, { version, value });
};
const SAVED = {
  id: 3,
  version: 5,
  name: "Fog night",
  words: { serve_at: "2026-12-05T19:30", pizzas: 4 },
  dough: { id: 8, name: "Rounds", dough: { steps: [] }, mixed_at: null },
  plan: { id: 9, sentence: { style: "new_york" }, result: { controls: { level: 2 } } },
} as unknown as SavedSupper;

describe("drafts of an older page", () => {
  it("of a new plan, dough and supper become one new supper, without what they named", () => {
    put(`draft ${OWNER} new`, { name: "P", sentence: { style: "focaccia", dough_id: 4 }, controls: null });
    put(`dough ${OWNER} new `, { name: "D", dough: { steps: [1] }, planId: 2, mixedAt: null });
    put(`supper ${OWNER} new  `, { name: "S", words: { pizzas: 6, dough_id: 4, plan_id: 2 } });
    adoptOlderDrafts(OWNER, null);
    expect(kept(NEW)?.value).toEqual({
      name: "S",
      words: { pizzas: 6 },
      dough: { name: "D", dough: { steps: [1] }, mixedAt: null },
      plan: { sentence: { style: "focaccia" }, controls: null },
    });
    expect(ownStorage.getItem(`draft ${OWNER} new`)).toBeNull();
  });

  it("of one part of a saved supper leave its other parts as they are saved", () => {
    put(`dough ${OWNER} 8`, { name: "Wetter", dough: { steps: [2] }, planId: 9, mixedAt: null }, 1);
    adoptOlderDrafts(OWNER, SAVED);
    const draft = kept("3");
    expect(draft?.version).toBe(5);
    expect(draft?.value.dough?.name).toBe("Wetter");
    expect(draft?.value.words).toEqual(SAVED.words);
    expect(draft?.value.plan).toEqual({ sentence: { style: "new_york" }, controls: { level: 2 } });
  });

  it("never take the place of a newer one, and what is damaged is none", () => {
    put(draftKey(OWNER, NEW), { name: "newer" });
    put(`draft ${OWNER} new`, { name: "older", sentence: {}, controls: null });
    adoptOlderDrafts(OWNER, null);
    expect(kept(NEW)?.value.name).toBe("newer");
    ownStorage.setItem(`draft ${OWNER} 9`, "{");
    adoptOlderDrafts(OWNER, SAVED);
    expect(kept("3")).toBeNull();
  });
});
