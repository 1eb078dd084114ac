import { useRef } from "react";
import { settled } from "../stores/editing";

/** Where arrow keys have taken something, by its name, while that is not known to be kept: from there the next press goes on. */
export function useReached<T>(): (name: string, shown: T, next: (from: T) => T) => T {
  const reached = useRef<Record<string, T>>({});
  return (name, shown, next) => {
    if (settled()) reached.current = {};
    const to = next(reached.current[name] ?? shown);
    reached.current[name] = to;
    return to;
  };
}
