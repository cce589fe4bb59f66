import { afterEach, describe, expect, it, vi } from "vitest";
import { answer, everyPage, patientFetch, Refusal, waitBeforeAgain } from "./client";

const said = (status: number, body: unknown, headers: Record<string, string> = {}) =>
  new Response(JSON.stringify(body), { status, headers: { "X-Mattone": "0.11.0+a", ...headers } });

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("a busy server", () => {
  it.each([
    [429, "2", "POST", 1, 2],
    [429, "2", "GET", 5, 2],
    [503, "3", "GET", 1, 3],
    // What may have been begun is not sent twice.
    [503, "3", "POST", 1, null],
    [503, "3", "PUT", 1, null],
    [429, null, "GET", 1, null],
    [429, "3600", "GET", 1, null],
    [429, "soon", "GET", 1, null],
    [429, "-1", "GET", 1, null],
    [429, "0", "GET", 1, 0.2],
    [429, "2", "GET", 6, null],
    [500, "2", "GET", 1, null],
    [200, "2", "GET", 1, null],
  ])("status %i, Retry-After %s, %s, try %i: waits %s", (status, after, method, tried, wait) => {
    expect(waitBeforeAgain(status, after, method, tried)).toBe(wait);
  });

  it("is asked again when it said, and the answer is given", async () => {
    vi.useFakeTimers();
    const answers = [
      said(429, {}, { "Retry-After": "1" }),
      said(429, {}, { "Retry-After": "1" }),
      said(200, { ok: 1 }),
    ];
    const fetched = vi.fn(() => Promise.resolve(answers.shift() ?? said(500, {})));
    vi.stubGlobal("fetch", fetched);
    const got = patientFetch(new Request("http://x/api/plans/preview", { method: "POST", body: "{}" }));
    await vi.advanceTimersByTimeAsync(2500);
    expect((await got).status).toBe(200);
    expect(fetched).toHaveBeenCalledTimes(3);
  });

  it("is given up when the cook leaves", async () => {
    vi.stubGlobal("fetch", () => Promise.resolve(said(429, {}, { "Retry-After": "9" })));
    const leave = new AbortController();
    const got = patientFetch(new Request("http://x/", { signal: leave.signal }));
    setTimeout(() => {
      leave.abort();
    }, 10);
    await expect(got).rejects.toMatchObject({ name: "AbortError" });
  });

  it("that stays busy is told in the end", async () => {
    vi.useFakeTimers();
    const fetched = vi.fn(() => Promise.resolve(said(429, {}, { "Retry-After": "1" })));
    vi.stubGlobal("fetch", fetched);
    const got = patientFetch(new Request("http://x/"));
    await vi.advanceTimersByTimeAsync(20_000);
    expect((await got).status).toBe(429);
    expect(fetched).toHaveBeenCalledTimes(6);
  });
});

describe("an answer", () => {
  const call = (response: Response, data?: unknown, error?: unknown) =>
    Promise.resolve({ data, error, response });

  it("is unwrapped", async () => {
    expect(await answer(call(said(200, {}), 7))).toBe(7);
  });

  it("that is a conflict brings the other version along", async () => {
    const error = { error: { path: "version", message: "changed" }, now: { id: 3, name: "theirs" } };
    const refusal = await answer(call(said(409, {}), undefined, error)).catch((e: unknown) => e);
    expect(refusal).toBeInstanceOf(Refusal);
    expect(refusal).toMatchObject({ status: 409, conflict: true, now: { id: 3, name: "theirs" } });
    expect(new Refusal(409, "clashes", "").conflict).toBe(false);
  });

  it("without words still says something", async () => {
    await expect(answer(call(said(502, {})))).rejects.toMatchObject({
      status: 502,
      message: /could not do that/,
    });
  });

  it("that never came says that nothing is lost", async () => {
    await expect(answer(Promise.reject(new TypeError("failed")))).rejects.toMatchObject({
      status: 0,
      message: /kept/,
    });
    await expect(answer(Promise.reject(new DOMException("left", "AbortError")))).rejects.toMatchObject({
      name: "AbortError",
    });
  });
});

describe("a list", () => {
  it("is read to its last page", async () => {
    const pages: Record<string, [number[], string?]> = { "": [[1, 2], "b"], b: [[3], "c"], c: [[4]] };
    const asked: string[] = [];
    const rows = await everyPage((after) => {
      asked.push(after);
      const [data, next] = pages[after] ?? [[]];
      return Promise.resolve({ data, response: said(200, data, next ? { "X-Next": next } : {}) });
    });
    expect(rows).toEqual([1, 2, 3, 4]);
    expect(asked).toEqual(["", "b", "c"]);
  });

  it("whose server names the same page for ever comes to an end", async () => {
    let calls = 0;
    const rows = await everyPage(() => {
      calls++;
      return Promise.resolve({ data: [calls], response: said(200, [], { "X-Next": "b" }) });
    });
    expect(rows).toEqual([1, 2]);
  });
});
