import { describe, expect, it } from "vitest";
import { heardTime, nowMs, offsetOf, virtualOf } from "./clock";

describe("the clock that bakes go by", () => {
  it("believes a device that is a moment off, and goes by the server where it is wrong", () => {
    expect(offsetOf(1_000_000, 1_008_500)).toBe(0);
    expect(offsetOf(1_000_000, 1_180_000)).toBe(-180_000);
    expect(offsetOf(Number.NaN, 5)).toBe(0);
  });

  it("is the device's own where nothing else was told", () => {
    expect(Math.abs(nowMs() - Date.now())).toBeLessThan(50);
  });

  it("does not take a slow answer for a wrong clock", () => {
    heardTime(new Date(Date.now() - 60_000).toUTCString(), 20_000);
    heardTime(null, 1);
    expect(Math.abs(nowMs() - Date.now())).toBeLessThan(50);
  });

  it("takes a virtual evening only from a whole address", () => {
    expect(virtualOf("?evening=1800000000000,1800000500000,20")).toEqual({
      fromMs: 1_800_000_000_000,
      begunMs: 1_800_000_500_000,
      speed: 20,
    });
    for (const bad of [
      "",
      "?evening=",
      "?evening=1,2",
      "?evening=1,2,0",
      "?evening=1,2,61",
      "?evening=a,b,c",
    ])
      expect(virtualOf(bad)).toBeNull();
  });
});
