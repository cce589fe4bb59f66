import type { Schemas } from "../../api/client";
import type { Reference } from "../../ui/crust";

export type Line = Schemas["EntryLine"];
export type Entry = Schemas["EntryOut"];
export type Came = Line["came"];
export type Fault = Schemas["Fault"];
export type Taught = Schemas["TaughtOut"];
export type BakeTold = Schemas["BakeTold"];
export type Correct = Schemas["CorrectIn"];

/** What a colour is as L*: of a swatch it is its own, of a word its middle; null: nobody looked. */
export function lightness(
  seen: string | number | null | undefined,
  words: Reference["words"],
): number | null {
  if (seen === null || seen === undefined) return null;
  if (typeof seen === "number") return seen;
  const at = words.findIndex((one) => one.word === seen);
  const word = words[at];
  if (!word) return null;
  const above = words[at - 1]?.above_l ?? 84;
  return (above + Math.max(word.above_l, 28)) / 2;
}

/** The swatch nearest to what was seen. */
export function nearest(l: number | null, row: readonly number[]): number | null {
  if (l === null) return null;
  return row.reduce((best, one) => (Math.abs(one - l) < Math.abs(best - l) ? one : best));
}

/** What an entry says in a line: what its cook wrote, what went wrong, or how it stood against its promise. */
export function gist(line: Line, faults: readonly Fault[]): string {
  const wrong = (line.came.faults ?? []).map((key) => faults.find((one) => one.key === key)?.name ?? key);
  if (wrong.length > 0) return wrong.join(", ");
  const [first] = (line.came.note ?? "").split("\n");
  if (first) return first;
  const foretold = line.foretold;
  if (!foretold) return "";
  if (line.pulled_s < foretold.low_s) return "pulled sooner than foretold";
  if (line.pulled_s > foretold.high_s) return "pulled later than foretold";
  return "pulled when foretold";
}

/** Faults by what they show on. */
export function byPlace(faults: readonly Fault[]): [string, Fault[]][] {
  const places = [...new Set(faults.map((one) => one.on))];
  return places.map((place) => [place, faults.filter((one) => one.on === place)]);
}

/** Where a bake came out against its promise: low, came and high as shares of the likely moment, ln; for drawing. */
export function against(one: BakeTold): { low: number; high: number; came: number | null } {
  const ln = (s: number) => Math.log(s / one.foretold_s);
  return {
    low: ln(one.foretold_low_s),
    high: ln(one.foretold_high_s),
    came: one.came_s === null ? null : ln(one.came_s),
  };
}

/** What is changed of an entry, to be sent. */
export function correcting(entry: Entry): Correct {
  return { name: entry.name, pulled_min: entry.pulled_s / 60, counts: entry.counts, came: entry.came };
}

/** Nobody has said yet how it came out. */
export const NOTHING_SEEN: Came = { faults: [], measured: [], liked_by: "", next_time: "", note: "" };

/** The moment so many months before now. */
export function monthsAgo(months: number, now = new Date()): string {
  const then = new Date(now);
  then.setMonth(then.getMonth() - months);
  return then.toISOString();
}

const MONTH = new Intl.DateTimeFormat("en-GB", { month: "short" });

/** The bakes of the last year by where they lie between the first and the last of them, 0 to 1; and where each month begins. */
export function seasonOf(lines: readonly Line[]) {
  const newest = Math.max(...lines.map((one) => Date.parse(one.baked_at)));
  const shown = lines.filter((one) => newest - Date.parse(one.baked_at) < 366 * 86_400_000);
  const times = shown.map((one) => Date.parse(one.baked_at));
  const from = Math.min(...times);
  const span = Math.max(newest - from, 86_400_000);
  const months: { share: number; name: string }[] = [];
  if (shown.length > 0) {
    const at = new Date(from);
    at.setDate(1);
    at.setHours(0, 0, 0, 0);
    for (at.setMonth(at.getMonth() + 1); at.getTime() <= newest; at.setMonth(at.getMonth() + 1))
      months.push({ share: (at.getTime() - from) / span, name: MONTH.format(at) });
  }
  return {
    placed: shown.map((line) => ({ line, share: (Date.parse(line.baked_at) - from) / span })),
    months,
  };
}
