import { useEffect, useState } from "react";

type Options<T> = { first?: T; busy?: boolean };

/** A value once it has been the same for so long while nothing was `busy`; until then the last such one, or `first`. */
export function useRested<T>(value: T, restsMs: number, { first, busy = false }: Options<T> = {}): T | undefined {
  const [rested, setRested] = useState(first);
  useEffect(() => {
    if (busy || value === rested) return;
    const timer = setTimeout(() => setRested(value), restsMs);
    return () => clearTimeout(timer);
  }, [value, rested, restsMs, busy]);
  return rested;
}
