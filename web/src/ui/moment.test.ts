import { describe, expect, it } from "vitest";
import { clockRead, clockWhole, momentRead, momentSaid } from "./moment";

// A Thursday.
const TODAY = "2026-11-26T18:00";

describe("a clock time", () => {
  it("is read as people type it", () => {
    const told: Record<string, string> = {
      "19:30": "19:30",
      "19.30": "19:30",
      "19h30": "19:30",
      "1930": "19:30",
      "0730": "07:30",
      "730": "07:30",
      "7": "07:00",
      "7pm": "19:00",
      "7.30 PM": "19:30",
      "12am": "00:00",
      "12 pm": "12:00",
      " 23:59 ": "23:59",
    };
    for (const [text, time] of Object.entries(told)) expect(clockRead(text), text).toBe(time);
  });

  it("is refused where there is none", () => {
    for (const text of ["", "24:00", "19:60", "13pm", "0am", "half seven", "19:3", "1:2:3", "-7", "99"])
      expect(clockRead(text), text).toBeNull();
  });

  it("is taken while it is typed only when nothing more can follow", () => {
    expect(["1", "19", "193", "19:", "19:3"].some(clockWhole)).toBe(false);
    expect(["1930", "19:30", "19.30", "7:05"].every(clockWhole)).toBe(true);
  });
});

describe("a day and a time", () => {
  const read = (text: string, lean: "past" | "next" = "next", stands = "2026-11-20T08:00") =>
    momentRead(text, stands, TODAY, lean);

  it("are read as people type them, the day ahead or behind as the field leans", () => {
    expect(read("sat 1930")).toBe("2026-11-28T19:30");
    expect(read("Saturday 19.30", "past")).toBe("2026-11-21T19:30");
    expect(read("thu 7pm")).toBe("2026-11-26T19:00");
    expect(read("thursday 7 pm", "past")).toBe("2026-11-26T19:00");
    expect(read("yesterday 0730")).toBe("2026-11-25T07:30");
    expect(read("tomorrow 8")).toBe("2026-11-27T08:00");
    expect(read("28 nov 19:30")).toBe("2026-11-28T19:30");
    expect(read("sat 28 nov 19:30")).toBe("2026-11-28T19:30");
    expect(read("Nov 28th, 7.30 pm")).toBe("2026-11-28T19:30");
    expect(read("3 jan 0900")).toBe("2027-01-03T09:00");
    expect(read("3 dec 0900", "past")).toBe("2025-12-03T09:00");
    expect(read("14 feb 2024 12:00")).toBe("2024-02-14T12:00");
    expect(read("2026-11-28 1930")).toBe("2026-11-28T19:30");
    expect(read("2026-11-28T19:30")).toBe("2026-11-28T19:30");
  });

  it("keep the day that stands there where a time alone is typed, else today's", () => {
    expect(read("0730")).toBe("2026-11-20T07:30");
    expect(read("0730", "past", "")).toBe("2026-11-26T07:30");
  });

  it("are refused where they are none", () => {
    for (const text of [
      "",
      "sat",
      "someday 19:30",
      "31 feb 12:00",
      "sat 25:00",
      "28 nov",
      "2026-02-30T10:00",
      "x",
    ])
      expect(read(text), text).toBeNull();
  });

  it("are read back as they are written, on any day of two years", () => {
    for (let days = -360; days < 370; days += 3) {
      const at = new Date(Date.UTC(2026, 10, 26 + days, 7, 5)).toISOString().slice(0, 16);
      for (const lean of ["past", "next"] as const) {
        const said = momentSaid(at, TODAY);
        const again = momentRead(said, "", TODAY, lean);
        // Without a year a date is taken ahead or behind; it is the same day of the year in any case.
        expect(again?.slice(5), said).toBe(at.slice(5));
        if (lean === (days < 0 ? "past" : "next")) expect(again, said).toBe(at);
      }
    }
    expect(momentSaid("", TODAY)).toBe("");
  });
});
