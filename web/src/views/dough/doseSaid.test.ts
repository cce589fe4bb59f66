import { describe, expect, it } from "vitest";
import { doseSaid } from "./doseSaid";
import type { DoughInput } from "./types";

const names = [
  { key: "instant_yeast", name: "instant yeast", role: "yeast" },
  { key: "salt", name: "salt", role: "salt" },
];
const dough = (yeast: number | null, starter?: number): DoughInput =>
  ({
    formula: {
      lines: [
        { ingredient: "salt", pct: 2.2 },
        ...(yeast === null ? [] : [{ ingredient: "instant_yeast", pct: yeast }]),
      ],
      preferments: starter === undefined ? [] : [{ kind: "starter", flour_pct: starter }],
    },
  }) as unknown as DoughInput;

describe("what a dose changed", () => {
  it("is told old and new", () => {
    expect(doseSaid(dough(0.5), dough(0.237), names)).toBe("instant yeast 0.50 % to 0.24 %");
    expect(doseSaid(dough(null), dough(0.3), names)).toBe("instant yeast: none before, 0.30 % now");
    expect(doseSaid(dough(null, 10), dough(null, 14.5), names)).toBe(
      "starter of 10.0 % of the flour to 14.5 %",
    );
  });

  it("is nothing where nothing changed", () => {
    expect(doseSaid(dough(0.3, 10), dough(0.3, 10), names)).toBe("");
  });
});
