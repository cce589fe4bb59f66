import { useCallback, useState } from "react";

/** The width of an element, followed as it changes; give `ref` to the element. */
export function useWidth(first: number): [(node: Element | null) => (() => void) | undefined, number] {
  const [width, setWidth] = useState(first);
  const ref = useCallback((node: Element | null) => {
    if (!node) return undefined;
    const watch = new ResizeObserver((entries) => {
      const w = entries[0]?.contentRect.width;
      if (w) setWidth(Math.round(w));
    });
    watch.observe(node);
    return () => {
      watch.disconnect();
    };
  }, []);
  return [ref, width];
}
