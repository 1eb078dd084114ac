/** Waveforms in axis inks. */
import type { MotionArray } from "../../api/motion";
import type { AxisName } from "../../api/types";
import { DASHES } from "../../shared/axes";
import { pen } from "../../shared/canvas";
import { reachOf } from "../../shared/reachOf";
import type { TimeScale } from "../../shared/timeScale";
import { frameAt, motion, rowsWithin } from "../../stores/motion";

/** A column in the ink of an axis; `middle` is the value at the center of the row, 0 by default. */
export type Wave = { axis: AxisName; column: number; perUnit: number; middle?: number };

/** Largest excursion of some waves, in their common measure. */
export function reach(array: MotionArray, waves: Wave[]): number {
  let maximum = 1e-9;
  for (const { column, perUnit } of waves) {
    const [low, high] = reachOf(array, column);
    maximum = Math.max(maximum, Math.max(Math.abs(low), Math.abs(high)) * perUnit);
  }
  return maximum;
}

/** Draws waves about the middle of a row. Many frames to a pixel are drawn as their extremes. */
export function drawWaves(
  context: CanvasRenderingContext2D,
  array: MotionArray,
  waves: Wave[],
  x: TimeScale,
  box: { top: number; height: number; width: number },
  scale: number,
  inks: Record<AxisName, string>,
  faint: number,
): void {
  const state = motion.getState();
  const middle = box.top + box.height / 2;
  const [from, to] = rowsWithin(x.invert(0), x.invert(box.width));
  // The scale is straight: two of its values say them all.
  const origin = x(0);
  const perFrame = x(1) - origin;
  context.lineJoin = "round";
  context.lineWidth = pen(1.3);
  context.globalAlpha = faint;
  for (const { axis, column, perUnit, middle: zero = 0 } of waves) {
    context.strokeStyle = inks[axis];
    context.setLineDash(DASHES[axis] as number[]);
    context.beginPath();
    let pixel = Number.NaN;
    let at = 0;
    let largest = 0;
    for (let row = from; row <= to; row++) {
      const across = origin + perFrame * frameAt(row, state);
      const value = (array.data[row * array.columns + column] ?? 0) - zero;
      if (Math.floor(across) === pixel) {
        if (Math.abs(value) > Math.abs(largest)) largest = value;
        continue;
      }
      if (row > from) context.lineTo(at, middle - largest * perUnit * scale);
      pixel = Math.floor(across);
      at = across;
      largest = value;
    }
    context.lineTo(at, middle - largest * perUnit * scale);
    context.stroke();
  }
  context.setLineDash([]);
  context.globalAlpha = 1;
}
