/** Search and placement of presets. */

import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { createStore } from "zustand/vanilla";
import { clipOf, clipsOf, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { type Placing, usualFade, type Way } from "./placing";

export type PresetSearch = {
  words: string;
  tags: string[];
  way: Way;
  corner: string | null;
  withinFrames: number | null;
  withRig: boolean;
};

export const search = createStore<PresetSearch>(() => ({
  words: "",
  tags: [],
  way: "new",
  corner: null,
  withinFrames: null,
  withRig: true,
}));

/** The selected clip, or the clip of the selected layer. */
export function useSelectedClip() {
  const { board, clip, layer } = useStore(
    view,
    useShallow(({ board, clip, layer }) => ({ board, clip, layer })),
  );
  const state = useStore(openShot, (each) => each.state);
  if (!state) return undefined;
  if (board === "clip") return clipsOf(state).find(({ id }) => id === clip);
  return board === "layer" && layer ? clipOf(state, layer) : undefined;
}

/** A handheld clip that a preset would add to. */
export function useHandheld() {
  const state = useStore(openShot, (each) => each.state);
  return state ? clipsOf(state).find(({ id }) => state.held_clips.includes(id)) : undefined;
}

/** The clip that a preset replaces or follows: the selected one, else one that is handheld already. */
export function useReplaced() {
  const selected = useSelectedClip();
  const handheld = useHandheld();
  return selected ?? handheld;
}

/** Present placement; without a clip there is none to replace. */
export function usePlacing(): Placing {
  const clip = useReplaced();
  const { way, corner, withinFrames, withRig } = useStore(search);
  const there = clip?.blend?.corners.some(({ id }) => id === corner) ?? false;
  const possible = way === "corner" ? there : clip || way === "new" || way === "here";
  return {
    way: possible ? way : "new",
    clip: clip?.id ?? null,
    corner: there ? corner : null,
    withinFrames: withinFrames ?? usualFade(),
    withRig,
  };
}
