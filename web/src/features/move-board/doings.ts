/** What can be done with the move: for the buttons of the board and for the command list alike. */
import type { Command, Shot } from "../../api/types";
import { commit, preview, session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { selectPins, view } from "../../stores/view";
import { moveFrames } from "../lanes";
import { outsidePose, placeLens } from "../set-view";
import { addressOf, FIELDS, keysAt, moveCommand } from "./commands";

export const FILLS = [
  { fill: 0.33, title: "wide" },
  { fill: 0.75, title: "full figure" },
  { fill: 1.8, title: "close" },
] as const;

export const PRIMES_MM = [18, 24, 35, 50, 85, 135] as const;
export const INTERPS = ["smooth", "linear", "hold"] as const;
export const EXTENDS = ["hold", "continue", "repeat"] as const;

const run = (command: Command) => void commit(command);

function here() {
  const { autoKey, mount, locks } = view.getState();
  return { frame: transport.getState().frame, key: autoKey, mount, locked: locks };
}

/** Turns angles to the nearest right angle, or sets numbers to zero. */
export function snap(fields: readonly (typeof FIELDS)[number][], zero: boolean): void {
  const { frame, key, mount } = here();
  run({ type: "snap_angles", frame, key, mount, fields: [...fields], zero });
}

export const level = () => snap(["roll_deg"], true);
export const square = () => snap(["pan_deg", "tilt_deg", "roll_deg"], false);
/** Looks at the subject; with `fill`, from where it takes that share of the picture's height. */
export function aim(fill: number | null, tryOnly = false): Promise<void> | undefined {
  const command: Command = { type: "aim_camera", ...here(), fill };
  if (!tryOnly) return commit(command);
  preview(command);
}
export const prime = (focal: number) => run(moveCommand("focal_mm", focal));

/** Puts the camera where the Set view looks from. */
export function fromOutside(): void {
  const pose = outsidePose();
  if (pose) run(placeLens(pose));
}

/** Keys of the selected pins, or all of the move's when none is selected; empty when there are none. */
export function pinnedKeys(shot: Shot): { keys: { at: string; frame: number }[]; chosen: number[]; frames: number[] } {
  const frames = moveFrames(shot);
  const chosen = view.getState().pins.filter((frame) => frames.includes(frame));
  return { keys: keysAt(shot, chosen.length ? chosen : null), chosen, frames };
}

/** How the selected keys, or all, run on. */
export function runOn(interp: (typeof INTERPS)[number]): void {
  const shot = session.getState().state?.document;
  const keys = shot ? pinnedKeys(shot).keys : [];
  if (keys.length) run({ type: "set_interp", keys, interp });
}

/** Stretches the selected pins in time about the first of them, or all pins; as a trial, or to be kept. */
export function stretch(factor: number, tryOnly = false): Promise<void> | undefined {
  const shot = session.getState().state?.document;
  const { keys, chosen, frames } = shot ? pinnedKeys(shot) : { keys: [], chosen: [], frames: [] };
  const about = chosen[0] ?? frames[0];
  if (!keys.length || about === undefined) return;
  const command: Command = { type: "scale_keys", keys, about_frame: about, factor };
  if (tryOnly) {
    preview(command);
    return;
  }
  return commit(command, () => selectPins(chosen.map((frame) => about + (frame - about) * factor)));
}

/** How the move goes on before its first key and after its last. */
export function extend(side: "before" | "after", how: (typeof EXTENDS)[number]): void {
  const shot = session.getState().state?.document;
  if (!shot) return;
  const at = FIELDS.map((field) => addressOf(shot, field));
  run({ type: "set_extend", at, before: null, after: null, [side]: how } as Command);
}
