import { endServerSession } from "./account";
import { adoptEvents } from "./eventStore";
import {
  forgetSession,
  recallAnswers,
  rememberedSession,
  rememberSession,
  takeLegacyEmail,
  type Session,
} from "./kept";
import { adoptDrafts, closeLocker, lockerOwner, openLocker } from "./locker";
import { queries } from "./queryClient";

export const SESSION_KEY = ["session"];
/** Set from a sign-out until the server has heard of it: its cookie still stands, and must let nobody in. */
const LEAVING = "mattone-leaving";
/** Keys of drafts that older pages kept without an address. */
const WITHOUT_ADDRESS = /^logbook-entry-\d+$/;

/** How often a sign-out is told to a server that did not answer, ms. */
const TRY_EVERY_MS = 5000;

/** Other windows of this browser. */
const windows = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("mattone-session");
let lastOwner: string | null = null;

/** The cook whose page this was last; an address of theirs is opened for nobody else. */
export function wasOwner(): string | null {
  return lastOwner;
}

/** At the page's start: whoever was signed in is, until the server says otherwise, so that a bake opens at once. */
export async function beginSession(): Promise<void> {
  windows?.addEventListener("message", (event: MessageEvent<{ owner: string | null }>) => {
    if (event.data.owner === lockerOwner()) return;
    void lock({ tell: false }).then(() => queries.invalidateQueries({ queryKey: SESSION_KEY }));
  });
  setInterval(() => void finishLeaving(), TRY_EVERY_MS);
  if (leaving()) return forgetSession();
  const session = await rememberedSession();
  if (!session) return;
  opened(session);
  await recallAnswers(queries);
  queries.setQueryData(SESSION_KEY, session);
}

function opened(session: Session): void {
  openLocker(session.owner, session.email, session.device_key);
  lastOwner = session.owner;
}

/** The server has said who is signed in: this device is that cook's from now on, and nobody else's. */
export async function adoptSession(session: Session | null): Promise<void> {
  const before = lockerOwner();
  if (before !== null && before !== session?.owner) await lock({ tell: false });
  if (!session) {
    await forgetSession();
    return;
  }
  const fresh = lockerOwner() === null;
  opened(session);
  await rememberSession(session);
  const legacy = await takeLegacyEmail();
  adoptDrafts(legacy === session.email ? WITHOUT_ADDRESS : null);
  await adoptEvents(session.email, session.owner);
  if (fresh) windows?.postMessage({ owner: session.owner });
}

/**
 * The sign-in page, at once: the cook's key and answers leave this device and its memory; their drafts and unsent events stay,
 * encrypted, until they sign in again.
 */
export async function lock({ tell = true }: { tell?: boolean } = {}): Promise<void> {
  closeLocker();
  // First what is on the screen, then what lies behind it.
  queries.setQueryData(SESSION_KEY, null);
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== SESSION_KEY[0] });
  queries.getMutationCache().clear();
  if (tell) windows?.postMessage({ owner: null });
  await forgetSession();
}

/** Whether a sign-out has not reached the server yet. */
export function leaving(): boolean {
  return localStorage.getItem(LEAVING) !== null;
}

/** Signs out on this device at once, and on the server as soon as it answers. */
export async function signOut(): Promise<void> {
  localStorage.setItem(LEAVING, "1");
  lastOwner = null;
  await lock();
  await finishLeaving();
}

/** Tells the server of a sign-out that it may not have heard of; whether it has now. */
export async function finishLeaving(): Promise<boolean> {
  if (!leaving()) return true;
  if (!(await endServerSession())) return false;
  localStorage.removeItem(LEAVING);
  return true;
}
