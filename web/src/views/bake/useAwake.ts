import { useEffect } from "react";

/** Keeps the screen on while `wanted`; let go at the end, asked for anew when the page comes back into sight. */
export function useAwake(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const take = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock
        .request("screen")
        .then((got) => {
          if (over) void got.release();
          else lock = got;
        })
        // A low battery may refuse it: the bake goes on.
        .catch(() => null);
    };
    take();
    document.addEventListener("visibilitychange", take);
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", take);
      void lock?.release();
    };
  }, [wanted]);
}
