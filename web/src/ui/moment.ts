import { day, dayFrom } from "./time";

const DAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
/** 19:30, 19.30, 19h30, 1930, 7, 7pm, 7.30 pm. */
const CLOCK = /^(\d{1,2})(?:[:.h ]?(\d{2}))?h?\s*(am|pm)?$/;

/** A clock time as people type it, as 19:30; null where it is none. */
export function clockRead(text: string): string | null {
  const told = CLOCK.exec(text.trim().toLowerCase());
  if (!told) return null;
  const [, h = "", m = "00", half] = told;
  let hour = Number(h);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === "pm" ? 12 : 0);
  }
  if (hour > 23 || Number(m) > 59) return null;
  return `${String(hour).padStart(2, "0")}:${m}`;
}

/** Whether nothing more has to be typed for it to be meant: 19:30, 19.30, 1930. */
export function clockWhole(text: string): boolean {
  return /^\d{1,2}[:.h]\d{2}$|^\d{4}$/.test(text.trim().toLowerCase()) && clockRead(text) !== null;
}

/** Where a day without a date lies: the one that was last, or the one that comes next. */
export type Lean = "past" | "next";

/** The date of a word for a day, yyyy-mm-dd, seen from today; null where it is none. */
function dateRead(words: string[], today: string, lean: Lean): string | null {
  const [first = "", second = ""] = words;
  if (words.length === 1) {
    const off = { today: 0, tonight: 0, yesterday: -1, tomorrow: 1 }[first];
    if (off !== undefined) return dayFrom(today, off);
    const weekday = DAYS.indexOf(first.slice(0, 3));
    if (weekday >= 0 && first.length >= 3 && /^[a-z]+$/.test(first)) {
      const ahead = (weekday - DAYS.indexOf(day(today).toLowerCase()) + 7) % 7;
      return dayFrom(today, lean === "next" || ahead === 0 ? ahead : ahead - 7);
    }
    return /^\d{4}-\d{2}-\d{2}$/.test(first) ? onCalendar(first) : null;
  }
  const month = MONTHS.indexOf((/^\d/.test(first) ? second : first).slice(0, 3));
  const date = Number((/^\d/.test(first) ? first : second).replace(/(st|nd|rd|th|\.)$/, ""));
  if (month < 0 || !Number.isInteger(date) || words.length > 3) return null;
  const said = Number(words[2] ?? NaN);
  const year = Number(today.slice(0, 4));
  const text = (y: number) =>
    `${String(y)}-${String(month + 1).padStart(2, "0")}-${String(date).padStart(2, "0")}`;
  if (words.length === 3) return said > 1900 ? onCalendar(text(said)) : null;
  const here = onCalendar(text(year));
  if (here === null) return null;
  if (lean === "past" && here > today) return onCalendar(text(year - 1));
  return lean === "next" && here < today ? onCalendar(text(year + 1)) : here;
}

/** A date that there is; null for the 31st of February. */
function onCalendar(date: string): string | null {
  const at = new Date(`${date}T12:00:00Z`);
  return Number.isNaN(at.getTime()) || at.toISOString().slice(0, 10) !== date ? null : date;
}

/**
 * A day and a time as people type them ("sat 1930", "28 nov 19.30", "yesterday 7pm", "0730"), as a local
 * yyyy-mm-ddThh:mm; null where they are none. A time alone is of the day that stands there; `today` is local too.
 */
export function momentRead(text: string, stands: string, today: string, lean: Lean): string | null {
  const words = text.trim().toLowerCase().replace(/,/g, " ").split(/\s+/).filter(Boolean);
  const iso = /^(\d{4}-\d{2}-\d{2})t(\d{2}:\d{2})$/.exec(words[0] ?? "");
  if (iso && words.length === 1) {
    const date = onCalendar(iso[1] ?? "");
    const time = clockRead(iso[2] ?? "");
    return date && time ? `${date}T${time}` : null;
  }
  // The time is the last word, or the last two where the half of the day stands apart.
  for (const count of [2, 1]) {
    const tail = words.slice(-count).join(" ");
    const time = words.length >= count && (count === 1 || /(am|pm)$/.test(tail)) ? clockRead(tail) : null;
    if (time === null) continue;
    let head = words.slice(0, -count);
    // "sat 28 nov 19:30": the weekday says nothing that the date does not.
    if (head.length > 1 && DAYS.includes((head[0] ?? "").slice(0, 3)) && !MONTHS.includes(head[0] ?? ""))
      head = head.slice(1);
    const date = head.length ? dateRead(head, today.slice(0, 10), lean) : (stands || today).slice(0, 10);
    if (date !== null) return `${date}T${time}`;
  }
  return null;
}

/** A local moment as it is written in a field: Sat 28 Nov 19:30; with its year where that is not this one. */
export function momentSaid(at: string, today: string): string {
  if (!at) return "";
  const month = MONTHS[Number(at.slice(5, 7)) - 1] ?? "";
  const year = at.slice(0, 4) === today.slice(0, 4) ? "" : ` ${at.slice(0, 4)}`;
  return `${day(at)} ${String(Number(at.slice(8, 10)))} ${month.charAt(0).toUpperCase()}${month.slice(1)}${year} ${at.slice(11, 16)}`;
}
