import { answer, client, csrfToken, Refusal, refuseForeign } from "./client";
import type { Session } from "./kept";

/** allauth's headless API, spoken by hand: it is not part of the server's own schema. */
interface AllauthAnswer {
  status: number;
  data?: { user?: { email: string }; flows?: { id: string; is_pending?: boolean }[] };
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
    refuseForeign(response);
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

/** The signed-in cook by the server's word, or null. */
export async function whoIsIn(): Promise<Session | null> {
  try {
    return await answer(client.GET("/api/account"));
  } catch (problem) {
    if (problem instanceof Refusal && problem.status === 401) return null;
    throw problem;
  }
}

export async function signIn(email: string, password: string): Promise<void> {
  const got = await call("POST", "auth/login", { email, password });
  if (got.status === 401 && got.data?.flows?.some((flow) => flow.id === "verify_email" && flow.is_pending))
    throw new Refusal(
      401,
      "email",
      "Open the link in the mail we sent you first; it proves that the address is yours.",
    );
  if (got.status !== 200) refuse(got);
}

/** True: signed in. False: a mail must be answered first. */
export async function signUp(email: string, password: string): Promise<boolean> {
  const got = await call("POST", "auth/signup", { email, password });
  // Taken, whether or not the address is new: nobody is told which addresses have a kitchen here.
  if (got.status === 202) {
    await signIn(email, password).catch(() => {
      throw new Refusal(
        400,
        "email",
        "If you have a kitchen under this address, sign in with its password. Otherwise use another address.",
      );
    });
    return true;
  }
  if (got.status === 403)
    throw new Refusal(403, "", "No new kitchens are opened here; ask whoever runs this Mattone.");
  if (got.status === 401 && got.data?.flows?.some((flow) => flow.id === "verify_email")) return false;
  if (got.status !== 200) refuse(got);
  return true;
}

/** Whether new cooks may open a kitchen here, and whether this Mattone can send mail. */
export async function doorOpen(): Promise<{ signUp: boolean; byMail: boolean }> {
  const got = await call("GET", "config");
  const account = (
    got.data as
      { account?: { is_open_for_signup?: boolean; email_verification_by_code_enabled?: boolean } } | undefined
  )?.account;
  const mail = document.querySelector('meta[name="mail"]')?.getAttribute("content") === "on";
  return { signUp: account?.is_open_for_signup ?? true, byMail: mail };
}

/** A mail with a link to set a new password. The answer is the same whether the address is known or not. */
export async function forgot(email: string): Promise<void> {
  const got = await call("POST", "auth/password/request", { email });
  if (got.status !== 200) refuse(got);
}

/** A new password by the key of that mail. */
export async function resetPassword(key: string, password: string): Promise<void> {
  const got = await call("POST", "auth/password/reset", { key, password });
  // 401: it is set, and one signs in with it.
  if (got.status !== 200 && got.status !== 401) refuse(got);
}

/** The address is proved by the key of the first mail. */
export async function verifyAddress(key: string): Promise<void> {
  const got = await call("POST", "auth/email/verify", { key });
  if (got.status !== 200 && got.status !== 401) refuse(got);
}

/** Ends the session on the server; whether the server has answered. */
export async function endServerSession(): Promise<boolean> {
  try {
    // 401: nobody is signed in now, which is the answer to a sign-out.
    return [200, 401].includes((await call("DELETE", "auth/session")).status);
  } catch {
    return false;
  }
}

export async function changePassword(current: string, next: string): Promise<void> {
  const got = await call("POST", "account/password/change", {
    current_password: current,
    new_password: next,
  });
  if (got.status !== 200) refuse(got);
}

/** A sign-in of this cook on some device. */
export interface SignedIn {
  id: number;
  user_agent: string;
  ip: string;
  /** Seconds since the epoch. */
  created_at: number;
  is_current: boolean;
}

export async function listSessions(): Promise<SignedIn[]> {
  const got = await call("GET", "auth/sessions");
  if (got.status !== 200) refuse(got);
  return got.data as unknown as SignedIn[];
}

export async function endSessions(ids: readonly number[]): Promise<void> {
  const got = await call("DELETE", "auth/sessions", { sessions: ids });
  // 401: this device's own is among them.
  if (got.status !== 200 && got.status !== 401) refuse(got);
}

/** Deletes the account and everything in it. */
export async function deleteAccount(password: string): Promise<void> {
  await answer(client.POST("/api/account/delete", { body: { password } }));
}
