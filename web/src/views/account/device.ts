const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg(A|iOS)?\//, "Edge"],
  [/OPR\//, "Opera"],
  [/Firefox\/|FxiOS\//, "Firefox"],
  [/Chrom(e|ium)\/|CriOS\//, "Chrome or Chromium"],
  [/Safari\//, "Safari"],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone/, "iPhone"],
  [/iPad/, "iPad"],
  [/Android/, "Android"],
  [/Windows/, "Windows"],
  [/Mac OS X|Macintosh/, "Mac"],
  [/Linux|X11/, "Linux"],
];

/** A device in words, from what its browser calls itself. */
export function deviceOf(userAgent: string): string {
  const first = (rows: readonly (readonly [RegExp, string])[]) =>
    rows.find(([pattern]) => pattern.test(userAgent))?.[1];
  const browser = first(BROWSERS);
  const system = first(SYSTEMS);
  if (browser && system) return `${browser} on ${system}`;
  return browser ?? system ?? "Unknown device";
}
