/** A leaf that differs between two versions of one thing: what it is, and both values in words. */
export interface Difference {
  name: string;
  mine: string;
  theirs: string;
}

const UNITS: Record<string, string> = {
  pct: "%",
  g: "g",
  c: "°C",
  k: "K",
  cm: "cm",
  cm2: "cm²",
  mm: "mm",
  m: "m",
  kg: "kg",
  kw: "kW",
  min: "min",
  s: "s",
  h: "h",
};
const UNSAID = new Set(["id", "version", "updated_at", "mass_kg", "area_cm2", "calibrated"]);
const MOST = 14;

/** A key of the data in words: "hydration_pct" is "hydration, %". */
export function inWords(key: string): string {
  const parts = key.split("_");
  const unit = parts.length > 1 ? UNITS[parts.at(-1) ?? ""] : undefined;
  const words = (unit ? parts.slice(0, -1) : parts).join(" ");
  return unit ? `${words}, ${unit}` : words;
}

/** What of a list tells its rows apart: an ingredient, a step, a name; else where it stands. */
function rowName(row: unknown, i: number): string {
  if (row && typeof row === "object")
    for (const key of ["ingredient", "step", "topping", "name", "place"]) {
      const word = (row as Record<string, unknown>)[key];
      if (typeof word === "string") return word.replaceAll("_", " ");
    }
  return String(i + 1);
}

function leaves(node: unknown, path: string, into: Map<string, string>): void {
  if (Array.isArray(node)) {
    const names = node.map(rowName);
    node.forEach((row, i) => {
      const name = names[i] ?? "";
      // Two rows of one name are told apart by their number.
      const twice = names.indexOf(name) !== names.lastIndexOf(name);
      leaves(row, joined(path, twice ? `${name} ${String(i + 1)}` : name), into);
    });
  } else if (node !== null && typeof node === "object") {
    for (const [key, value] of Object.entries(node))
      if (!UNSAID.has(key)) leaves(value, joined(path, inWords(key)), into);
  } else into.set(path, said(node));
}

function joined(path: string, name: string): string {
  return path ? `${path}: ${name}` : name;
}

function said(value: unknown): string {
  if (value === null || value === undefined || value === "") return "–";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return String(Math.round(value * 1000) / 1000);
  return String(value).replaceAll("_", " ");
}

/** What differs between my version and theirs, side by side; `more` of them are left out of the list. */
export function differences(mine: unknown, theirs: unknown): { shown: Difference[]; more: number } {
  const [left, right] = [new Map<string, string>(), new Map<string, string>()];
  leaves(mine, "", left);
  leaves(theirs, "", right);
  const found: Difference[] = [];
  for (const name of new Set([...left.keys(), ...right.keys()])) {
    const [a, b] = [left.get(name) ?? "–", right.get(name) ?? "–"];
    if (a !== b) found.push({ name, mine: a, theirs: b });
  }
  return { shown: found.slice(0, MOST), more: Math.max(0, found.length - MOST) };
}
