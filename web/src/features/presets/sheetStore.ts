/** How presets are looked for, and where one goes. */

import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { clipsOf, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { type Placing, usualFade, type Way } from "./placing";

export type PresetSearch = { words: string; tags: string[]; way: Way; withinFrames: number | null; withRig: boolean };

export const search = createStore<PresetSearch>(() => ({
  words: "",
  tags: [],
  way: "new",
  withinFrames: null,
  withRig: false,
}));

/** The clip that the board shows, if it shows one. */
export function useSelectedClip() {
  const id = useStore(view, (each) => (each.board === "clip" ? each.clip : null));
  const state = useStore(openShot, (each) => each.state);
  return state && id ? clipsOf(state).find((each) => each.id === id) : undefined;
}

/** Where a preset goes now; without a selected clip there is none to replace. */
export function usePlacing(): Placing {
  const clip = useSelectedClip()?.id ?? null;
  const { way, withinFrames, withRig } = useStore(search);
  const possible = clip || way === "new" || way === "here" ? way : "new";
  return { way: possible, clip, withinFrames: withinFrames ?? usualFade(), withRig };
}
