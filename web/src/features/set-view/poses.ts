/** Poses of the lens from the motion arrays onto three's objects. */
import { MathUtils, type Object3D } from "three";
import { type Motion, motion, rowOf } from "../../stores/motion";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export const VFOV = 7;
/** Picture shift by the film back: to the right, then up; percent. */
const SHIFT = 8;

/** A pose in an array of them: where its numbers begin. */
export type ShownPose = { data: Float32Array; at: number };

/** The pose shown now: with the shake, or the bare move while it is bypassed. */
export function shownPose(state: Motion | null = motion.getState()): ShownPose | null {
  if (!state) return null;
  const array = state.arrays.get(view.getState().bypass ? "bare" : "pose");
  if (!array || state.rows === 0) return null;
  return { data: array.data, at: rowOf(transport.getState().frame, state) * array.columns };
}

/** The pose of the move alone: what placing the camera changes. */
export function barePose(state: Motion = motion.getState()): ShownPose | null {
  const array = state.arrays.get("bare");
  if (!array || state.rows === 0) return null;
  return { data: array.data, at: rowOf(transport.getState().frame, state) * array.columns };
}

/** Puts an object where the lens is. Order: pan about Y, then tilt, then roll. */
export function placeAtLens(object: Object3D, data: Float32Array, at: number): void {
  object.position.set(data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0);
  object.rotation.set(
    MathUtils.degToRad(data[at + 4] ?? 0),
    MathUtils.degToRad(data[at + 3] ?? 0),
    MathUtils.degToRad(data[at + 5] ?? 0),
    "YXZ",
  );
}

/** Picture shift by the film back, right and up, as shares of its width and height. */
export function shiftAt({ data, at }: ShownPose): [number, number] {
  return [(data[at + SHIFT] ?? 0) / 100, (data[at + SHIFT + 1] ?? 0) / 100];
}
