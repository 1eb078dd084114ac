/** Placing the camera: for the buttons of the board and for the command list alike. */
import type { Command, MoveField } from "../api/types";
import { commit } from "../stores/editing";
import { preview } from "../stores/preview";
import { mountId } from "../stores/rig";
import { outsidePose } from "../stores/stage";
import { transport } from "../stores/transport";
import { view } from "../stores/view";
import { moveCommand } from "./moving";
import { placeLens } from "./placeLens";

const ANGLES: readonly MoveField[] = ["pan_deg", "tilt_deg", "roll_deg"];

function here() {
  const { keyEveryChange: key } = view.getState();
  return { frame: transport.getState().frame, key, mount: mountId() };
}

/** Turns angles to the nearest right angle, or sets numbers to zero. */
export function snap(fields: readonly MoveField[], zero: boolean): void {
  void commit({ type: "snap_angles", ...here(), fields: [...fields], zero });
}

export const level = () => snap(["roll_deg"], true);
export const square = () => snap(ANGLES, false);

function aiming(fill: number | null): Command {
  return { type: "aim_camera", ...here(), locked: view.getState().locks, fill };
}

/** Looks at the subject; with `fill`, from where it takes that share of the picture's height. */
export const aim = (fill: number | null): Promise<void> => commit(aiming(fill));
export const tryAim = (fill: number): void => preview(aiming(fill));

export const takeLens = (focal: number) => void commit(moveCommand("focal_mm", focal));

/** Moves the camera to the Set view's eye. */
export function fromOutside(): void {
  const pose = outsidePose();
  if (pose) void commit(placeLens(pose));
}
