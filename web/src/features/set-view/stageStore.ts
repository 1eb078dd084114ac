/** Where on the page the stage draws its two pictures. */
import { createStore } from "zustand/vanilla";
import type { WorldPose } from "./placing";
import type { Part } from "./rings";

export type StageState = {
  finder: HTMLElement | null;
  outside: HTMLElement | null;
  /** Panes of small Viewfinders, by what is tried on in each. */
  trials: Record<string, HTMLElement>;
  aspect: number;
  setProblem: string | null;
  ready: boolean;
  /** Names of the set pieces. */
  pieces: string[];
  /** The machine draws too slowly for shadows. */
  slow: boolean;
  /** The part of the camera that the pointer is on in the Set view, or holds, and what to say of it. */
  grip: { part: Part; text: string } | null;
  /** Pictures are drawn with fewer pixels just now. */
  coarse: boolean;
};

export const stage = createStore<StageState>(() => ({
  finder: null,
  outside: null,
  trials: {},
  aspect: 16 / 9,
  setProblem: null,
  ready: false,
  pieces: [],
  slow: false,
  coarse: false,
  grip: null,
}));

/** Where the Set view looks from; told by whoever draws it. */
let ask: (() => WorldPose) | null = null;

export function tellOutside(how: (() => WorldPose) | null): void {
  ask = how;
}

export function outsidePose(): WorldPose | null {
  return ask?.() ?? null;
}
