import { useStore } from "zustand";
import { editing } from "../stores/editing";

/** A value of the shot, or what it was just set to while the server has not answered yet. */
export function usePending<T>(at: string, value: T): T {
  const pending = useStore(editing, (state) => state.pending[at]);
  return pending === undefined ? value : (pending as T);
}
