/** Commands for placing a preset: a new clip, a replacement, or a cross-fade. */
import type { Command, Preset, PresetEntry, State } from "../../api/types";
import { commit } from "../../stores/editing";
import { selectMadeClip } from "../../stores/selection";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export type Way = "new" | "here" | "instead" | "over" | "corner";

/** Placement: the selected clip is the one that a preset replaces or follows, within a number of frames. */
export type Placing = {
  way: Way;
  clip: string | null;
  /** Corner of the selected blend that a preset fills. */
  corner: string | null;
  withinFrames: number;
  withRig: boolean;
};

/** Default length of cross-fades. */
const OVER_S = 1;

export const usualFade = () => Math.max(1, Math.round(OVER_S * transport.getState().fps));

/** The command. */
export function placing(
  { way, clip, corner, withinFrames, withRig: with_rig }: Placing,
  { key, preset }: PresetEntry & { preset: Preset },
): Command {
  const { frame, loop } = transport.getState();
  if (clip && corner && way === "corner") return { type: "fill_corner", preset, key, clip, corner };
  if (clip && way === "instead") return { type: "swap_preset", preset, key, clip };
  if (clip && way === "over") return { type: "cross_fade_to", preset, key, clip, frame, within_frames: withinFrames };
  if (way === "here") return { type: "place_preset", preset, key, with_rig, first_frame: frame };
  if (loop) return { type: "place_preset", preset, key, with_rig, first_frame: loop[0], last_frame: loop[1] };
  return { type: "place_preset", preset, key, with_rig, ...(preset.length_s === null ? {} : { first_frame: frame }) };
}

/** A clip that blends presets, each in a corner. */
export function blending(entries: (PresetEntry & { preset: Preset })[]): Command {
  const { frame, loop } = transport.getState();
  const presets = entries.map(({ key, preset }) => ({ key, preset }));
  const short = presets.every(({ preset }) => preset.length_s !== null);
  const span = loop ? { first_frame: loop[0], last_frame: loop[1] } : short ? { first_frame: frame } : {};
  return { type: "add_blend", presets, method: "mix", ...span };
}

/** Keeps it, shows the lanes again, and selects what it made. */
export function place(command: Command): void {
  const stateWithClip = (state: State) => {
    view.setState({ sheet: null });
    selectMadeClip(state);
  };
  void commit(command, { kept: stateWithClip });
}
