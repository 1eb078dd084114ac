import type { Shot } from "../../api/types";

const FIELDS = ["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"] as const;

/** Frames at which the move of any mount has a key, in order. */
export function moveFrames(shot: Shot): number[] {
  const frames = new Set<number>();
  for (const mount of shot.mounts) {
    for (const field of FIELDS) {
      const param = mount[field];
      if (param.state === "keyed") for (const key of param.curve.keys) frames.add(key.frame);
    }
  }
  return [...frames].sort((a, b) => a - b);
}

/** Frames with pins, each with the axes that have a key there. */
export function pinTitles(shot: Shot): Map<number, string[]> {
  const pins = new Map<number, string[]>();
  for (const mount of shot.mounts) {
    for (const field of FIELDS) {
      const param = mount[field];
      if (param.state !== "keyed") continue;
      for (const key of param.curve.keys)
        pins.set(key.frame, [...(pins.get(key.frame) ?? []), field.split("_")[0] ?? field]);
    }
  }
  return pins;
}
