import { useEffect, useState } from "react";

const RESTS_MS = 150;

/** Whether a value has been the same for a while: what passes is drawn in a lighter way. */
export function useResting(value: unknown): boolean {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    if (value === rested) return;
    const timer = setTimeout(() => setRested(value), RESTS_MS);
    return () => clearTimeout(timer);
  }, [value, rested]);
  return value === rested;
}
