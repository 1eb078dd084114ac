/** Short messages at the foot of the page. */
import { createStore } from "zustand/vanilla";
import { explain } from "../api/client";

export type Note = { id: number; kind: "info" | "error"; text: string; action?: { title: string; run: () => void } };

export const notes = createStore<{ list: Note[] }>(() => ({ list: [] }));

let count = 0;
/** Messages without an action next to a new one. */
const MAX_PLAIN = 2;

export function dismiss(id: number): void {
  notes.setState((state) => ({ list: state.list.filter((note) => note.id !== id) }));
}

/** Messages that stay next to a new one: those with an action, and the last few others. Equal messages are shown once. */
function withNote(list: Note[], text: string): Note[] {
  const otherNotes = list.filter((each) => each.text !== text);
  const plain = otherNotes.filter((each) => !each.action).slice(-MAX_PLAIN);
  return otherNotes.filter((each) => each.action || plain.includes(each));
}

export function note(kind: Note["kind"], text: string, action?: Note["action"]): void {
  const id = ++count;
  notes.setState(({ list }) => ({ list: [...withNote(list, text), { id, kind, text, action }] }));
}

/** Shows an error and its position. */
export function complain(error: unknown): void {
  note("error", explain(error));
}
