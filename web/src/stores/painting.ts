/** Switches that the held pointer crosses: all are set like the first one, as one change. */
import { createStore } from "zustand/vanilla";
import { commit } from "./editing";

type Paint = { field: string; value: boolean; at: string[] };

export const painting = createStore<{ paint: Paint | null }>(() => ({ paint: null }));

const fieldOf = (at: string): string => at.slice(at.lastIndexOf(".") + 1);

/** Begins at a switch; `alone` is what happens when no other one is met. */
export function beginPainting(at: string, value: boolean, alone: () => void): void {
  painting.setState({ paint: { field: fieldOf(at), value, at: [at] } });
  const end = (event: PointerEvent) => {
    for (const name of ENDS) window.removeEventListener(name, end);
    const { paint } = painting.getState();
    painting.setState({ paint: null });
    if (!paint || event.type === "pointercancel") return;
    if (paint.at.length === 1) alone();
    else void commit({ type: "set_values", values: paint.at.map((each) => ({ at: each, value: paint.value })) });
  };
  for (const name of ENDS) window.addEventListener(name, end);
}

const ENDS = ["pointerup", "pointercancel"] as const;

/** Crosses another switch of the same field. */
export function paintOver(at: string): void {
  const { paint } = painting.getState();
  if (paint && paint.field === fieldOf(at) && !paint.at.includes(at))
    painting.setState({ paint: { ...paint, at: [...paint.at, at] } });
}

/** State of a switch: the stored one, or the one being painted. */
export function painted(at: string, on: boolean): (state: { paint: Paint | null }) => boolean {
  return ({ paint }) => (paint?.at.includes(at) ? paint.value : on);
}
