import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { adoptDrafts, closeLocker, openLocker, ownStorage } from "../api/locker";
import { shelf } from "../testing";
import { readDraft, writeDraft } from "./drafts";

const KEEPER = ["7", "keeper@skerry-light.example", "ab".repeat(32)] as const;
const MATE = ["8", "mate@skerry-light.example", "cd".repeat(32)] as const;

beforeEach(() => {
  openLocker(...KEEPER);
});
afterEach(() => {
  closeLocker();
});

describe("a draft", () => {
  it("comes back as it was, with the version it began from", () => {
    expect(writeDraft("k", { version: 3, value: { name: "x" } })).toBe(true);
    // Another window has saved version 5 meanwhile: the draft still knows that it began from 3.
    expect(readDraft("k", 5)).toEqual({ version: 3, value: { name: "x" } });
  });

  it("of a page from before drafts knew their version is read, too", () => {
    ownStorage.setItem("k", JSON.stringify({ sentence: { style: "focaccia" }, name: "old" }));
    expect(readDraft("k", 4)).toEqual({
      version: 4,
      value: { sentence: { style: "focaccia" }, name: "old" },
    });
  });

  it("that called the base by its older name keeps the wish, and no text is touched", () => {
    const name = 'a "bottom": rack';
    ownStorage.setItem("k", JSON.stringify({ version: 1, value: { sentence: { bottom: "brown" }, name } }));
    expect(readDraft("k", 1)?.value).toEqual({ sentence: { base: "brown" }, name });
  });

  it.each(["", "null", "{", "7", '"text"', "[", '{"version":1,"value":null}', '{"version":1,"value":"x"}'])(
    "that is damaged (%s) is none",
    (text) => {
      ownStorage.setItem("k", text);
      expect(readDraft("k", 1)).toBeNull();
    },
  );

  it("that finds no room leaves the page as it is", () => {
    writeDraft("k", { version: 1, value: { a: 1 } });
    shelf.full = true;
    expect(writeDraft("k", { version: 1, value: { a: 2 } })).toBe(false);
    expect(readDraft("k", 1)).toEqual({ version: 1, value: { a: 1 } });
  });
});

describe("a draft on a device of two cooks", () => {
  const draft = { version: 1, value: { name: "relief boat" } };

  it("cannot be read, found or written over by the other, and is there when its cook is back", () => {
    writeDraft("plan", draft);
    const stored = [...shelf.rows.entries()].flat().join(" ");
    expect(stored).not.toMatch(/relief|keeper/);
    openLocker(...MATE);
    expect(readDraft("plan", 1)).toBeNull();
    writeDraft("plan", { version: 1, value: { name: "mine" } });
    openLocker(...KEEPER);
    expect(readDraft("plan", 1)).toEqual(draft);
    // Under the right name with the wrong key it is nothing, and breaks nothing.
    openLocker(KEEPER[0], KEEPER[1], MATE[2]);
    expect(readDraft("plan", 1)).toBeNull();
  });

  it("is neither read nor written while nobody is signed in", () => {
    writeDraft("plan", draft);
    const before = new Map(shelf.rows);
    closeLocker();
    expect(readDraft("plan", 1)).toBeNull();
    writeDraft("plan", { version: 2, value: { name: "nobody" } });
    ownStorage.removeItem("plan");
    expect(shelf.rows).toEqual(before);
  });

  it("of a page before 0.11 becomes its cook's alone", () => {
    const text = JSON.stringify(draft);
    shelf.setItem(`plan ${KEEPER[1]} new`, text);
    shelf.setItem(`plan ${MATE[1]} new`, text);
    shelf.setItem(`plan light${KEEPER[1]} new`, text);
    shelf.setItem("logbook-entry-3", text);
    shelf.setItem("units", "us");
    adoptDrafts(/^logbook-entry-\d+$/);
    expect(readDraft(`plan ${KEEPER[0]} new`, 1)).toEqual(draft);
    expect(readDraft("logbook-entry-3", 1)).toEqual(draft);
    expect([...shelf.rows.keys()].filter((key) => !key.startsWith("mattone-own"))).toEqual([
      `plan ${MATE[1]} new`,
      `plan light${KEEPER[1]} new`,
      "units",
    ]);
  });
});
