/** Short messages at the foot of the page. */
import { createStore } from "zustand/vanilla";
import { explain } from "../api/client";

export type Note = { id: number; kind: "info" | "error"; text: string; action?: { title: string; run: () => void } };

export const notes = createStore<{ list: Note[] }>(() => ({ list: [] }));

let count = 0;
const STAY_MS = 5000;

export function dismiss(id: number): void {
  notes.setState((state) => ({ list: state.list.filter((note) => note.id !== id) }));
}

export function note(kind: Note["kind"], text: string, action?: Note["action"]): void {
  const id = ++count;
  // What is said already is said once.
  const others = (list: Note[]) => list.filter((each) => each.text !== text).slice(-2);
  notes.setState(({ list }) => ({ list: [...others(list), { id, kind, text, action }] }));
  if (kind === "info" && !action) setTimeout(() => dismiss(id), STAY_MS);
}

/** Says what went wrong and where. */
export function complain(error: unknown): void {
  note("error", explain(error));
}
