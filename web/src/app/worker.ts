import { VERSION_HEADER } from "../api/version";

/** The page itself is kept by a service worker, so that it opens where nobody answers. */
const PAGE = "page";

export async function keepPage(): Promise<void> {
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  try {
    await navigator.serviceWorker.register("/sw.js", { scope: "/" });
    await navigator.serviceWorker.ready;
    // The page that is open now was there before its worker.
    const page = await fetch("/", { credentials: "omit" });
    if (page.ok && page.headers.has(VERSION_HEADER)) await (await caches.open(PAGE)).put("/", page);
  } catch {
    // A private window, or no room: the page works as long as the server answers.
  }
}
