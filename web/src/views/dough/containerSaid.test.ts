import { describe, expect, it } from "vitest";
import { containerSaid } from "./containerSaid";
import type { Kitchen } from "./types";

const tub = (name: string, volume_l: number) =>
  ({
    id: 1,
    version: 1,
    name,
    kind: "container",
    volume_l,
    holds_g: null,
    limit_c: null,
  }) as Kitchen["tools"][number];
const mixer = {
  ...tub("mixer", 1),
  kind: "mixer",
  volume_l: null,
  holds_g: 1600,
} as Kitchen["tools"][number];

describe("what holds the dough", () => {
  it("is the smallest container that is large enough", () => {
    const tools = [tub("large tub", 6), tub("bowl", 3), mixer];
    expect(containerSaid(2.8, tools)).toContain("the bowl does");
    expect(containerSaid(3.2, tools)).toContain("the large tub does");
  });

  it("is said to be missing where all are too small, and not where none is owned", () => {
    expect(containerSaid(7, [tub("bowl", 3)])).toContain("part it between two");
    expect(containerSaid(7, [mixer])).toBe("");
  });
});
