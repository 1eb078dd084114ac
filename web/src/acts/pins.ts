/** Actions on the keys of the move: of the selected pins, or of all without a selection. */
import type { Command, Curve, Key, Shot } from "../api/types";
import { commit } from "../stores/editing";
import { openShot } from "../stores/openShot";
import { preview } from "../stores/preview";
import { selectPins, view } from "../stores/view";
import { moveFrames } from "./moveFrames";
import { addressOf, FIELDS, keysAt } from "./moving";

type Pinned = { keys: { at: string; frame: number }[]; chosen: number[]; frames: number[] };

/** Keys of the selected pins, or all of the move's when none is selected; empty when there are none. */
export function pinnedKeys(shot: Shot): Pinned {
  const frames = moveFrames(shot, view.getState().pinsOf);
  const chosen = view.getState().pins.filter((frame) => frames.includes(frame));
  return { keys: keysAt(shot, chosen.length ? chosen : null), chosen, frames };
}

const pinned = (): Pinned => {
  const shot = openShot.getState().state?.document;
  return shot ? pinnedKeys(shot) : { keys: [], chosen: [], frames: [] };
};

/** Their interpolation. */
export function runOn(interp: Key["interp"]): void {
  const { keys } = pinned();
  if (keys.length) void commit({ type: "set_interp", keys, interp });
}

/** Stretched in time about the first of them. */
function stretched({ keys, chosen, frames }: Pinned, factor: number): Extract<Command, { type: "scale_keys" }> | null {
  const about = chosen[0] ?? frames[0];
  return keys.length && about !== undefined ? { type: "scale_keys", keys, about_frame: about, factor } : null;
}

export function tryStretch(factor: number): void {
  const command = stretched(pinned(), factor);
  if (command) preview(command);
}

export function stretch(factor: number): Promise<void> | undefined {
  const now = pinned();
  const command = stretched(now, factor);
  if (!command) return;
  const to = (frame: number) => command.about_frame + (frame - command.about_frame) * factor;
  return commit(command, { kept: () => selectPins(now.chosen.map(to), view.getState().pinsOf) });
}

/** Extension of the move before its first key or after its last. */
export function extend(side: "before" | "after", how: Curve["after"]): void {
  const shot = openShot.getState().state?.document;
  if (!shot) return;
  const at = FIELDS.map((field) => addressOf(shot, field));
  void commit({ type: "set_extend", at, before: null, after: null, [side]: how });
}

/** Moves the selected pins by some frames. Each press counts: what it moves is looked up when those before it are kept. */
export function nudge(by: number): void {
  const { pins, pinsOf } = view.getState();
  if (!pins.length) return;
  selectPins(
    pins.map((frame) => frame + by),
    pinsOf,
  );
  void commit(({ document }) => {
    const keys = keysAt(document, pins, pinsOf);
    return keys.length ? { type: "move_keys", keys, by_frames: by, by_value: 0, copy_keys: false } : null;
  });
}
