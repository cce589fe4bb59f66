import type { DoughInput, DoughReference } from "./types";

const pct = (value: number) => (value < 1 ? value.toPrecision(2) : value.toFixed(1));

/** What a dose changed: "instant yeast 0.50 % to 0.24 %", or the starter; empty where nothing did. */
export function doseSaid(
  before: DoughInput,
  after: DoughInput,
  names: DoughReference["ingredients"],
): string {
  const lines = after.formula.lines.flatMap((line) => {
    const was = before.formula.lines.find((l) => l.ingredient === line.ingredient);
    const name = names.find((n) => n.key === line.ingredient)?.name ?? line.ingredient;
    if (!was) return [`${name}: none before, ${pct(line.pct)} % now`];
    return Math.abs(was.pct - line.pct) > 1e-6 ? [`${name} ${pct(was.pct)} % to ${pct(line.pct)} %`] : [];
  });
  const made = (after.formula.preferments ?? []).flatMap((p, i) => {
    const was = before.formula.preferments?.[i];
    return was && Math.abs(was.flour_pct - p.flour_pct) > 1e-6
      ? [`${p.kind.replace("_", " ")} of ${pct(was.flour_pct)} % of the flour to ${pct(p.flour_pct)} %`]
      : [];
  });
  return [...lines, ...made].join(", ");
}
