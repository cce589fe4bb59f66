import { ownStorage } from "../api/locker";

/** What an older page kept, by the names of today; a key in text a cook typed is escaped, and so left alone. */
export function byPlainNames(text: string): unknown {
  return JSON.parse(text.replaceAll('"bottom":', '"base":').replaceAll('"bottom_l":', '"base_l":'));
}

/** A draft as it lies in this browser: its value, and the version of the saved thing it began from. */
export interface Kept<T> {
  version: number | null;
  value: T;
}

/** The draft under a key. One from before drafts knew their version began from `version`, as far as anyone knows. */
export function readDraft<T>(key: string, version: number | null): Kept<T> | null {
  try {
    const told = byPlainNames(ownStorage.getItem(key) ?? "null") as Kept<T> | T | null;
    if (!told || typeof told !== "object") return null;
    if ("value" in told && "version" in told)
      return told.value && typeof told.value === "object" ? told : null;
    return { version, value: told as T };
  } catch {
    return null;
  }
}

/** Keep it; a browser without room keeps what is drawn, and nothing breaks. */
export function writeDraft<T>(key: string, kept: Kept<T>): boolean {
  try {
    ownStorage.setItem(key, JSON.stringify(kept));
    return true;
  } catch {
    return false;
  }
}
