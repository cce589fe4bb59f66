import { describe, expect, it } from "vitest";
import { secondsOf } from "./minutes";

describe("minutes as they are written", () => {
  it("reads a clock, a point and a comma", () => {
    expect(secondsOf("7:30")).toBe(450);
    expect(secondsOf(" 7.5 ")).toBe(450);
    expect(secondsOf("7,5")).toBe(450);
    expect(secondsOf("12")).toBe(720);
  });

  it("takes nothing for what is no bake", () => {
    for (const bad of ["", "seven", "-7", "0:10", "7:61", "1e9", "99.9", "7:3", "0"])
      expect(secondsOf(bad), bad).toBeNull();
  });
});
