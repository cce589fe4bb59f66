import createClient, { type Middleware } from "openapi-fetch";
import { sayHere } from "../ui/said";
import { heardTime } from "../ui/clock";
import { lockerOwner } from "./locker";
import type { components, paths } from "./schema";
import { heardVersion, PAGE_HEADER, pageBuild, VERSION_HEADER } from "./version";

export type Schemas = components["schemas"];

/** What the server says when it cannot do something: the field, what to do, and for a conflict the thing as it is now. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly path: string,
    message: string,
    readonly now: unknown = null,
  ) {
    super(sayHere(message));
  }

  /** It was changed in another window meanwhile. */
  get conflict(): boolean {
    return this.status === 409 && this.path === "version";
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

/** Who is signed in is asked by this address; it is the only one that may be asked by a page of nobody's. */
const WHO = "/api/account";
const whenSignedOut = new Set<() => void>();

/** Called when the server says that this page's cook is not signed in any more. */
export function onSignedOut(listener: () => void): void {
  whenSignedOut.add(listener);
}

const page: Middleware = {
  onRequest({ request, schemaPath }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    request.headers.set(PAGE_HEADER, pageBuild());
    const owner = lockerOwner();
    if (owner !== null && schemaPath !== WHO) request.headers.set("X-Mattone-Owner", owner);
    return request;
  },
  onResponse({ response, schemaPath }) {
    if (response.status === 401 && schemaPath !== WHO) for (const listener of whenSignedOut) listener();
  },
};

/** Throws where an answer is not Mattone's own: something in between gave it, and Mattone has not been reached. */
export function refuseForeign(response: Response): void {
  const version = response.headers.get(VERSION_HEADER);
  if (version === null) throw new TypeError("not an answer of Mattone's");
  heardVersion(version);
}

/** How often and how long a busy server is asked again before the cook is told. */
const TRIES = 6;
const LONGEST_WAIT_S = 10;

/** The seconds to wait before asking a busy server again; null: tell the cook. 429 was never begun; 503 may have been, so only what writes nothing is asked again. */
export function waitBeforeAgain(
  status: number,
  retryAfter: string | null,
  method: string,
  tried: number,
): number | null {
  if (retryAfter === null || tried >= TRIES) return null;
  if (status !== 429 && !(status === 503 && method === "GET")) return null;
  const seconds = Number(retryAfter);
  return Number.isFinite(seconds) && seconds >= 0 && seconds <= LONGEST_WAIT_S
    ? Math.max(0.2, seconds)
    : null;
}

function pause(seconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, seconds * 1000);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      reject(new DOMException("left", "AbortError"));
    });
  });
}

/** fetch, asking again when the server says that it is busy and when to come back. */
export async function patientFetch(request: Request): Promise<Response> {
  for (let tried = 1; ; tried++) {
    const askedMs = performance.now();
    const response = await fetch(request.clone());
    refuseForeign(response);
    heardTime(response.headers.get("Date"), performance.now() - askedMs);
    const wait = waitBeforeAgain(response.status, response.headers.get("Retry-After"), request.method, tried);
    if (wait === null) return response;
    await pause(wait, request.signal);
  }
}

export const client = createClient<paths>({ baseUrl: "/", fetch: patientFetch });
client.use(page);

interface Answered<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

async function unwrapped<T>(call: Promise<Answered<T>>): Promise<Answered<T>> {
  let got;
  try {
    got = await call;
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === "AbortError") throw problem;
    throw new Refusal(0, "", "The server does not answer. What you set is kept; try again in a moment.");
  }
  if (got.response.ok) return got;
  const said = got.error as { error?: { path?: string; message?: string }; now?: unknown } | undefined;
  throw new Refusal(
    got.response.status,
    said?.error?.path ?? "",
    said?.error?.message ?? `The server could not do that (${String(got.response.status)}). Try again.`,
    said?.now ?? null,
  );
}

/** Unwrap an answer, or throw a Refusal in words. */
export async function answer<T>(call: Promise<Answered<T>>): Promise<T> {
  return (await unwrapped(call)).data as T;
}

/** All pages of a list: the header X-Next of one says where the next begins. */
export async function everyPage<Row>(read: (after: string) => Promise<Answered<Row[]>>): Promise<Row[]> {
  const rows: Row[] = [];
  let after = "";
  for (;;) {
    const got = await unwrapped(read(after));
    rows.push(...(got.data ?? []));
    const next = got.response.headers.get("X-Next");
    if (!next || next === after) return rows;
    after = next;
  }
}
