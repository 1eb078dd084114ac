import { useRef } from "react";
import { settled } from "../stores/editing";

/** Result of arrow keys that is not saved yet, by name: the next key press continues from there. */
export function useReached<T>(): (name: string, shown: T, next: (from: T) => T) => T {
  const reached = useRef<Record<string, T>>({});
  return (name, shown, next) => {
    if (settled()) reached.current = {};
    const to = next(reached.current[name] ?? shown);
    reached.current[name] = to;
    return to;
  };
}
