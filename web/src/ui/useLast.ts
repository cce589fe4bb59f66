import { useEffect, useState } from "react";

/** The last value there was: what is refused or still asked for leaves it standing. */
export function useLast<T>(value: T | null | undefined, first: T | null = null): T | null {
  const [last, setLast] = useState<T | null>(value ?? first);
  useEffect(() => {
    if (value != null) setLast(value);
  }, [value]);
  return value ?? last;
}
