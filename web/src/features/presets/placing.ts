/** What placing a preset comes to: a clip of its own, one in place of another, or one that another gives way to. */
import type { Command, Preset, PresetEntry, State } from "../../api/types";
import { commit } from "../../stores/editing";
import { selectMadeClip } from "../../stores/selection";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export type Way = "new" | "here" | "instead" | "over" | "corner";

/** How and where: the selected clip is what a preset replaces or follows, within so many frames. */
export type Placing = {
  way: Way;
  clip: string | null;
  /** Of the selected blend, that a preset goes into. */
  corner: string | null;
  withinFrames: number;
  withRig: boolean;
};

/** How long clips cross-fade when one gives way to another, while nobody has said. */
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
