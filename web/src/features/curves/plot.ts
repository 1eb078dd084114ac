/** Geometry of the curve plot. */
import { scaleLinear } from "d3-scale";
import type { MotionArray } from "../../api/motion";
import { keysOf, roughly, varies } from "../../api/param";
import type { TimeScale } from "../../shared/timeScale";
import { frameAt, type Motion, rowsWithin } from "../../stores/motion";
import type { Track } from "./groups";

const MARGIN_PX = 14;
const MIN_SPAN = 1e-3;

/** Values to pixels, larger ones higher up. */
export function valueScale(values: [number, number], height: number): TimeScale {
  return scaleLinear()
    .domain(values)
    .range([height - MARGIN_PX, MARGIN_PX]);
}

/** Round values for the rules of the plot. */
export function valueTicks(values: [number, number], height: number): number[] {
  return scaleLinear()
    .domain(values)
    .ticks(Math.max(2, Math.floor(height / 36)));
}

/** Least and largest value of some curves, their keys included, with some air. */
export function extent(tracks: Track[], state: Motion): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  const see = (value: number) => {
    low = Math.min(low, value);
    high = Math.max(high, value);
  };
  for (const track of tracks) {
    for (const value of state.arrays.get(`curve:${track.at}`)?.data ?? []) see(value);
    for (const key of keysOf(track.param)) see(key.value);
    if (!varies(track.param)) see(roughly(track.param));
  }
  if (!Number.isFinite(low)) return [0, 1];
  const air = Math.max((high - low) * 0.08, MIN_SPAN, high === low ? Math.max(Math.abs(high) * 0.2, 0.5) : 0);
  return [low - air, high + air];
}

/** A column of an array as a path; frames that fall on one pixel are thinned out. */
export function linePath(array: MotionArray, column: number, x: TimeScale, y: TimeScale, width: number): string {
  const [from, to] = rowsWithin(x.invert(0), x.invert(width));
  const stride = Math.max(1, Math.floor((to - from) / width));
  const parts: string[] = [];
  for (let row = from; row <= to; row += stride) {
    parts.push(`${x(frameAt(row)).toFixed(1)},${y(array.data[row * array.columns + column] ?? 0).toFixed(1)}`);
  }
  return parts.length ? `M${parts.join("L")}` : "";
}
