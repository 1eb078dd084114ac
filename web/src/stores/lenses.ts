/** The lenses of the row on the board: those that are usual, or one's own. */
import { createStore } from "zustand/vanilla";
import { serverTables } from "./serverTables";

const LENSES = "zittern.lenses";

function storedLenses(): number[] | null {
  const own = (localStorage.getItem(LENSES) ?? "").split(" ").map(Number);
  return own.length && own.every((each) => Number.isFinite(each) && each > 0) ? own : null;
}

export const lenses = createStore<{ mm: number[] }>(() => ({ mm: storedLenses() ?? serverTables().forms.lenses_mm }));

/** None at all brings the usual ones back. */
export function setLenses(own: number[]): void {
  if (own.length) localStorage.setItem(LENSES, own.join(" "));
  else localStorage.removeItem(LENSES);
  lenses.setState({ mm: own.length ? own : serverTables().forms.lenses_mm });
}
