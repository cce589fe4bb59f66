import { useEffect, useRef, useState } from "react";
import { type Due, missed } from "../../ui/bakeDue";
import { notify, ring, speak } from "./signals";

export interface Settings {
  sound: boolean;
  voice: boolean;
}

/** Calls once for everything that comes due, and says what came due while the phone slept. */
export function useAlarms(due: Due | null, nowMs: number, settings: Settings) {
  const context = useRef<AudioContext | null>(null);
  const called = useRef(new Set<string>());
  const lastLook = useRef(nowMs);
  const [slept, setSlept] = useState<Due | null>(null);
  // Browsers let a page sound only after it was touched.
  useEffect(() => {
    const wake = () => {
      if (!("AudioContext" in window)) return;
      context.current ??= new AudioContext();
      void context.current.resume().catch(() => null);
    };
    window.addEventListener("pointerdown", wake);
    window.addEventListener("keydown", wake);
    return () => {
      window.removeEventListener("pointerdown", wake);
      window.removeEventListener("keydown", wake);
    };
  }, []);
  const key = due?.key ?? "";
  const isDue = due !== null && due.atMs <= nowMs;
  useEffect(() => {
    const found = missed(due, lastLook.current, nowMs);
    lastLook.current = nowMs;
    if (found) setSlept(found);
  }, [due, nowMs]);
  useEffect(() => {
    if (!isDue || called.current.has(key)) return;
    called.current.add(key);
    const text = due?.text ?? "";
    if (settings.sound) {
      if (context.current) ring(context.current);
      // A page that nobody touched yet may not.
      if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.([250, 120, 250]);
    }
    if (settings.voice) speak(text);
    void notify(text);
  }, [isDue, key, due?.text, settings.sound, settings.voice]);
  return {
    slept,
    seen: () => {
      setSlept(null);
    },
  };
}
