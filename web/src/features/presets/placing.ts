/** What placing a preset comes to: a clip of its own, one in place of another, or one that another gives way to. */
import type { Command, Preset } from "../../api/types";
import { commit } from "../../stores/editing";
import { selectClip } from "../../stores/selection";
import { transport } from "../../stores/transport";

export type Way = "new" | "instead" | "over";

/** How long clips cross-fade when one gives way to another. */
const OVER_S = 1;

/** The command; `clip` is the selected one, which a new clip does without. */
export function placing(way: Way, preset: Preset, clip: string | null): Command {
  const { frame, fps, loop } = transport.getState();
  if (clip && way === "instead") return { type: "swap_preset", preset, clip };
  if (clip && way === "over")
    return { type: "go_over", preset, clip, frame, within_frames: Math.max(1, Math.round(OVER_S * fps)) };
  if (loop) return { type: "place_preset", preset, first_frame: loop[0], last_frame: loop[1] };
  return { type: "place_preset", preset, ...(preset.length_s === null ? {} : { first_frame: frame }) };
}

/** Keeps it, and selects what it made. */
export function place(command: Command): void {
  void commit(command, {
    kept: ({ made }) => {
      const clip = made.find((address) => address.startsWith("clip:"));
      if (clip) selectClip(clip.slice("clip:".length));
    },
  });
}
