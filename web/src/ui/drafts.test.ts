import { describe, expect, it } from "vitest";
import { shelf } from "../testing";
import { readDraft, writeDraft } from "./drafts";

describe("a draft", () => {
  it("comes back as it was, with the version it began from", () => {
    expect(writeDraft("k", { version: 3, value: { name: "x" } })).toBe(true);
    // Another window has saved version 5 meanwhile: the draft still knows that it began from 3.
    expect(readDraft("k", 5)).toEqual({ version: 3, value: { name: "x" } });
  });

  it("of a page from before drafts knew their version is read, too", () => {
    shelf.setItem("k", JSON.stringify({ sentence: { style: "focaccia" }, name: "old" }));
    expect(readDraft("k", 4)).toEqual({
      version: 4,
      value: { sentence: { style: "focaccia" }, name: "old" },
    });
  });

  it("that called the base by its older name keeps the wish, and no text is touched", () => {
    const name = 'a "bottom": rack';
    shelf.setItem("k", JSON.stringify({ version: 1, value: { sentence: { bottom: "brown" }, name } }));
    expect(readDraft("k", 1)?.value).toEqual({ sentence: { base: "brown" }, name });
  });

  it.each(["", "null", "{", "7", '"text"', "[", '{"version":1,"value":null}', '{"version":1,"value":"x"}'])(
    "that is damaged (%s) is none",
    (text) => {
      shelf.setItem("k", text);
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
