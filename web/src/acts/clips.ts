/** Actions on clips, for the board and the command list. */
import type { Command } from "../api/types";
import { commit } from "../stores/editing";
import { openShot } from "../stores/openShot";
import { selectMadeClip } from "../stores/selection";
import { transport } from "../stores/transport";
import { openPresetForm, view } from "../stores/view";

/** Default length of a new clip. */
const FRESH_S = 2;

/** A command on the selected clip; what it makes is selected. */
function withClip(make: (clip: string) => Command): void {
  const { board, clip } = view.getState();
  if (board === "clip" && clip) void commit(make(clip), { kept: selectMadeClip });
}

/** A new clip on a new lane: over the loop range, else from the playhead on. */
export function addClip(): void {
  const { frame, fps, last, loop } = transport.getState();
  if (!openShot.getState().state) return;
  const [first_frame, last_frame] = loop ?? [
    frame,
    Math.max(Math.min(last, Math.round(frame + FRESH_S * fps)), frame + 1),
  ];
  const command: Command = { type: "add_clip", name: "Clip", first_frame, last_frame };
  void commit(command, { kept: selectMadeClip });
}

export const splitClip = () => withClip((clip) => ({ type: "split_clip", clip, frame: transport.getState().frame }));
export const duplicateClip = (times: number) => withClip((clip) => ({ type: "duplicate_clip", clip, times }));
/** One plain clip of what the selected blend is at the playhead. */
export const bakeBlend = () => withClip((clip) => ({ type: "bake_blend", clip, frame: transport.getState().frame }));
/** One plain clip that does over time what the selected blend does. */
export const flattenBlend = () => withClip((clip) => ({ type: "flatten_blend", clip }));
export const removeClip = () => withClip((clip) => ({ type: "remove_clip", clip }));
export const ownLane = () => withClip((clip) => ({ type: "move_clip", clip, by_frames: 0, new_lane: true }));
export const toLane = (lane: string) =>
  withClip((clip) => ({ type: "move_clip", clip, by_frames: 0, lane, new_lane: false }));

/** Opens the dialog that keeps the selected clip as a preset. */
export function saveClip(): void {
  const { clip } = view.getState();
  if (clip) openPresetForm({ save: "clip", clip });
}
