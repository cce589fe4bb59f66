import { useEffect, useState } from "react";

/** The value as it was `ms` after it last changed. `key` decides what counts as a change. */
export function useDebounced<T>(value: T, key: string, ms: number): T {
  const [kept, setKept] = useState({ value, key });
  useEffect(() => {
    const timer = setTimeout(() => {
      setKept((was) => (was.key === key ? was : { value, key }));
    }, ms);
    return () => {
      clearTimeout(timer);
    };
    // `value` is as its key says.
  }, [key, ms]);
  return kept.value;
}
