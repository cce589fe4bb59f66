import { csrfToken, Refusal } from "./client";

/** allauth's headless API, spoken by hand: it is not part of the server's own schema. */
interface AllauthAnswer {
  status: number;
  data?: { user?: { email: string } };
  errors?: { message: string; param?: string }[];
}

async function call(method: string, path: string, body?: object): Promise<AllauthAnswer> {
  let response: Response;
  try {
    const init: RequestInit = {
      method,
      headers: { "Content-Type": "application/json", "X-CSRFToken": csrfToken() },
    };
    if (body) init.body = JSON.stringify(body);
    response = await fetch(`/_allauth/browser/v1/${path}`, init);
  } catch {
    throw new Refusal(0, "", "The server does not answer. Try again in a moment.");
  }
  if (response.status === 429)
    throw new Refusal(429, "", "Too many tries. Wait a few minutes, then try again.");
  return (await response.json().catch(() => ({ status: response.status }))) as AllauthAnswer;
}

function refuse(got: AllauthAnswer): never {
  const first = got.errors?.[0];
  throw new Refusal(got.status, first?.param ?? "", first?.message ?? "That did not work. Try again.");
}

/** The signed-in cook's address, or null. */
export async function whoIsIn(): Promise<string | null> {
  const got = await call("GET", "auth/session");
  return got.status === 200 ? (got.data?.user?.email ?? null) : null;
}

export async function signIn(email: string, password: string): Promise<void> {
  const got = await call("POST", "auth/login", { email, password });
  if (got.status !== 200) refuse(got);
}

export async function signUp(email: string, password: string): Promise<void> {
  const got = await call("POST", "auth/signup", { email, password });
  if (got.status !== 200) refuse(got);
}

export async function signOut(): Promise<void> {
  await call("DELETE", "auth/session");
}

export async function changePassword(current: string, next: string): Promise<void> {
  const got = await call("POST", "account/password/change", {
    current_password: current,
    new_password: next,
  });
  if (got.status !== 200) refuse(got);
}
