import type { MotionArray } from "../api/motion";

const REACHES = new WeakMap<Float32Array, Map<number, [number, number]>>();

/** Minimum and maximum of a column; cached per array. */
export function reachOf({ data, columns }: MotionArray, column: number): [number, number] {
  const known = REACHES.get(data) ?? new Map<number, [number, number]>();
  REACHES.set(data, known);
  const found = known.get(column);
  if (found) return found;
  let low = Infinity;
  let high = -Infinity;
  for (let at = column; at < data.length; at += columns) {
    const value = data[at] ?? 0;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  known.set(column, [low, high]);
  return [low, high];
}
