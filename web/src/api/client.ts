import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** What the server says when it cannot do something: the field and what to do. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly path: string,
    message: string,
  ) {
    super(message);
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "/" });
client.use(csrf);

/** Unwrap an answer, or throw a Refusal in words. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got;
  try {
    got = await call;
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === "AbortError") throw problem;
    throw new Refusal(0, "", "The server does not answer. What you set is kept; try again in a moment.");
  }
  if (got.response.ok) return got.data as T;
  const said = (got.error as { error?: { path?: string; message?: string } } | undefined)?.error;
  throw new Refusal(
    got.response.status,
    said?.path ?? "",
    said?.message ?? `The server could not do that (${String(got.response.status)}). Try again.`,
  );
}
