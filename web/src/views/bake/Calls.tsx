import { useState } from "react";
import { Button } from "../../ui/Button";
import { useKept } from "../../ui/useKept";
import { clockOf } from "./clockOf";
import type { Due } from "../../ui/bakeDue";
import type { Settings } from "./useAlarms";

/** How this device calls: by sound, by voice, past a dark screen. */
export function useSettings(): [Settings, (settings: Settings) => void] {
  const [kept, keep] = useKept<Settings>("mattone-bake-calls");
  return [kept ?? { sound: true, voice: false }, keep];
}

/** What came due while the phone slept. */
export function Slept({ slept, nowMs, seen }: { slept: Due; nowMs: number; seen: () => void }) {
  const minutes = Math.round((nowMs - slept.atMs) / 60_000);
  return (
    <div role="alert" className="mt-2 border-l-8 border-brick bg-brick-wash px-3 py-2 text-[18px]">
      <p>
        <b>{slept.text}</b>: this came due at {clockOf(slept.atMs)} while the phone slept,{" "}
        {minutes < 1 ? "less than a minute" : `${String(minutes)} min`} ago.
      </p>
      <Button className="mt-1 min-h-11" onClick={seen}>
        I have seen it
      </Button>
    </div>
  );
}

export function CallSettings({
  settings,
  change,
}: {
  settings: Settings;
  change: (settings: Settings) => void;
}) {
  const able = "Notification" in window;
  const [allowed, setAllowed] = useState(() => able && Notification.permission === "granted");
  return (
    <details className="mt-3" data-testid="calls">
      <summary className="flex min-h-11 cursor-pointer items-center text-[16px] text-air underline underline-offset-2">
        How it calls you
      </summary>
      {(
        [
          ["sound", "By sound and vibration"],
          ["voice", "Say it aloud"],
        ] as const
      ).map(([name, words]) => (
        <label key={name} className="flex min-h-11 items-center gap-3 text-[17px]">
          <input
            type="checkbox"
            className="size-6"
            checked={settings[name]}
            onChange={(e) => {
              change({ ...settings, [name]: e.target.checked });
            }}
          />
          {words}
        </label>
      ))}
      {able && !allowed ? (
        <Button
          className="min-h-11"
          onClick={() => {
            void Notification.requestPermission().then((said) => {
              setAllowed(said === "granted");
            });
          }}
        >
          Also when the page is out of sight
        </Button>
      ) : null}
    </details>
  );
}
