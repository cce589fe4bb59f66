import { xchacha20poly1305 } from "@noble/ciphers/chacha.js";
import { bytesToUtf8, hexToBytes, managedNonce, utf8ToBytes } from "@noble/ciphers/utils.js";

/**
 * What a cook leaves on this device is encrypted with a key that the server gives only to them. While the cook is signed in the
 * locker is open; on sign-out, expiry or another sign-in it is closed, and what is stored here cannot be read until they come back.
 */
interface Open {
  owner: string;
  email: string;
  key: Uint8Array;
}

let open: Open | null = null;
const cipher = managedNonce(xchacha20poly1305);

export function openLocker(owner: string, email: string, deviceKey: string): void {
  open = { owner, email, key: hexToBytes(deviceKey) };
}

export function closeLocker(): void {
  open = null;
}

/** Whose locker is open: the cook's stable name on the server; null when nobody is signed in here. */
export function lockerOwner(): string | null {
  return open?.owner ?? null;
}

/** A value that only this cook can read; throws when no locker is open. */
export function seal(value: unknown): Uint8Array {
  if (!open) throw new Error("nobody is signed in on this device");
  return cipher(open.key).encrypt(utf8ToBytes(JSON.stringify(value)));
}

/** What `seal` was given; null where it cannot be read: another cook's, damaged, or nobody is signed in. */
export function unseal(sealed: Uint8Array): unknown {
  if (!open) return null;
  try {
    return JSON.parse(bytesToUtf8(cipher(open.key).decrypt(sealed))) as unknown;
  } catch {
    return null;
  }
}

const PREFIX = "mattone-own";
const address = (owner: string, key: string) => `${PREFIX} ${owner} ${key}`;

function toText(bytes: Uint8Array): string {
  let text = "";
  for (let at = 0; at < bytes.length; at += 8192)
    text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}

function fromText(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text), (char) => char.charCodeAt(0));
  } catch {
    return new Uint8Array();
  }
}

/** Local storage for the signed-in cook alone. Nothing is read or written while nobody is signed in. */
export const ownStorage = {
  getItem(key: string): string | null {
    const text = open ? localStorage.getItem(address(open.owner, key)) : null;
    const value = text === null ? null : unseal(fromText(text));
    return typeof value === "string" ? value : null;
  },

  /** Throws where the browser has no room. */
  setItem(key: string, value: string): void {
    if (open) localStorage.setItem(address(open.owner, key), toText(seal(value)));
  },

  removeItem(key: string): void {
    if (open) localStorage.removeItem(address(open.owner, key));
  },
};

/** Drafts of pages before 0.11 lay open under the cook's address: they are encrypted. `others` are keys without an address, if they are this cook's. */
export function adoptDrafts(others: RegExp | null): void {
  if (!open) return;
  for (const key of Object.keys(localStorage)) {
    if (key.startsWith(PREFIX) || !(key.split(" ").includes(open.email) || others?.test(key))) continue;
    const value = localStorage.getItem(key);
    try {
      if (value !== null) ownStorage.setItem(key.replace(open.email, open.owner), value);
    } catch {
      continue;
    }
    localStorage.removeItem(key);
  }
}
