import { ownStorage } from "../api/locker";
import { NEW } from "./draft";

const KEY = "supper at hand";
/** A supper is not the next one any more so long after its first pizza, ms. */
const OVER_MS = 6 * 3_600_000;

/** The supper that was opened last here. */
export function rememberSupper(place: string): void {
  ownStorage.setItem(KEY, place);
}

export const rememberedSupper = () => ownStorage.getItem(KEY);

interface Line {
  id: number;
  serve_at?: string | null;
}

/** The supper that a view opens on: the one opened last, else the next by its date, else a new one. */
export function supperAtHand(
  suppers: readonly Line[],
  remembered: string | null,
  begun: boolean,
  now: number,
): string {
  const ahead = (one: Line) => one.serve_at == null || new Date(one.serve_at).getTime() > now - OVER_MS;
  if (remembered === NEW && begun) return NEW;
  const last = suppers.find((one) => String(one.id) === remembered);
  if (last && ahead(last)) return String(last.id);
  const dated = suppers
    .filter((one) => one.serve_at != null && ahead(one))
    .sort((a, b) => new Date(a.serve_at ?? 0).getTime() - new Date(b.serve_at ?? 0).getTime());
  return dated[0] ? String(dated[0].id) : NEW;
}
