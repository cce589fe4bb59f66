/**
 * Page and server tell each other which build they are. Every answer of Mattone carries the header; one without it comes from
 * something in between, such as a hotel's sign-in page, and is thrown away.
 */
export const VERSION_HEADER = "X-Mattone";
export const PAGE_HEADER = "X-Mattone-Page";

/** The build this page belongs to, as the server wrote it into the page. */
export function pageBuild(): string {
  if (typeof document === "undefined") return "";
  return document.querySelector('meta[name="build"]')?.getAttribute("content") ?? "";
}

let heard = "";
const listeners = new Set<() => void>();

/** The version of the Mattone that answered last: "0.11.0+build". */
export function serverVersion(): string {
  return heard;
}

export function heardVersion(version: string): void {
  if (version === heard) return;
  heard = version;
  for (const listener of listeners) listener();
}

export function onVersion(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whether the server has another build of the page than this one. */
export function pageIsOutdated(): boolean {
  const page = pageBuild();
  return page !== "" && heard !== "" && heard.slice(heard.indexOf("+") + 1) !== page;
}
