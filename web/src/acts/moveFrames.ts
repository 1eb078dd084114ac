import { keysOf } from "../api/param";
import type { MoveField, Shot } from "../api/types";
import { facts } from "../stores/facts";

export type PinKey = { at: string; title: string; interp: string };

/** Frames with pins, each with the keys that stand there: of one mount, or of every one and of the focal length. */
export function pinTitles(shot: Shot, only: string | null = null): Map<number, PinKey[]> {
  const pins = new Map<number, PinKey[]>();
  const numbers = facts().forms.move.flatMap(({ field, title, group }) =>
    group === "lens"
      ? only === null
        ? [{ at: `shot.${field}`, title, param: shot.focal_mm }]
        : []
      : shot.mounts
          .filter(({ id }) => only === null || id === only)
          .map((mount) => ({ at: `mount:${mount.id}.${field}`, title, param: mount[field as MoveField] })),
  );
  for (const { at, title, param } of numbers)
    for (const key of keysOf(param))
      pins.set(key.frame, [...(pins.get(key.frame) ?? []), { at, title, interp: key.interp }]);
  return new Map([...pins].sort(([a], [b]) => a - b));
}

/** Frames at which the move, or one mount of it, has a key, in order. */
export function moveFrames(shot: Shot, only: string | null = null): number[] {
  return [...pinTitles(shot, only).keys()];
}
