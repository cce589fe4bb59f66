import { describe, expect, it } from "vitest";
import { deviceOf } from "./device";

describe("a device", () => {
  it.each([
    ["Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0", "Firefox on Linux"],
    [
      "Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) AppleWebKit/605 Version/19.0 Mobile Safari/604.1",
      "Safari on iPhone",
    ],
    [
      "Mozilla/5.0 (Linux; Android 16) AppleWebKit/537 Chrome/140.0 Mobile Safari/537.36",
      "Chrome or Chromium on Android",
    ],
    ["Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537 Chrome/140.0 Safari/537.36 Edg/140.0", "Edge on Windows"],
    ["Mozilla/5.0 (Macintosh; Intel Mac OS X 15) AppleWebKit/605 Version/19 Safari/605.1", "Safari on Mac"],
    ["curl/8", "Unknown device"],
    ["", "Unknown device"],
  ])("%s", (userAgent, words) => {
    expect(deviceOf(userAgent)).toBe(words);
  });
});
