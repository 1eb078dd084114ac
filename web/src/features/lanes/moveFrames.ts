import type { Shot } from "../../api/types";

const FIELDS = ["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"] as const;

export type PinKey = { at: string; title: string; interp: string };

/** Frames with pins, each with the keys that stand there: of every mount, and of the focal length. */
export function pinTitles(shot: Shot): Map<number, PinKey[]> {
  const pins = new Map<number, PinKey[]>();
  const numbers = shot.mounts.flatMap((mount) =>
    FIELDS.map((field) => ({ at: `mount:${mount.id}.${field}`, param: mount[field] })),
  );
  numbers.push({ at: "shot.focal_mm", param: shot.focal_mm });
  for (const { at, param } of numbers) {
    if (param.state !== "keyed") continue;
    const title = at.split(".")[1]?.split("_")[0] ?? at;
    for (const key of param.curve.keys)
      pins.set(key.frame, [...(pins.get(key.frame) ?? []), { at, title, interp: key.interp }]);
  }
  return new Map([...pins].sort(([a], [b]) => a - b));
}

/** Frames at which the move has a key, in order. */
export function moveFrames(shot: Shot): number[] {
  return [...pinTitles(shot).keys()];
}
