import { useEffect, useRef } from "react";

/** True where typing belongs to a field. */
function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && target.closest("input, textarea, select, [contenteditable]") !== null
  );
}

/** Call back on a plain key press, unless the cook is typing. */
export function useShortcut(keys: readonly string[], act: (key: string, e: KeyboardEvent) => void): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  const joined = keys.join("\u0000");
  useEffect(() => {
    const wanted = new Set(joined.split("\u0000"));
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || typing(e.target) || !wanted.has(e.key))
        return;
      latest.current(e.key, e);
    };
    window.addEventListener("keydown", listen);
    return () => {
      window.removeEventListener("keydown", listen);
    };
  }, [joined]);
}
