/** Geometry of the hull of a weight about the middle of a row. */
import type { TimeScale } from "../../shared/timeScale";
import { frameAt, motion, rowsWithin } from "../../stores/motion";

const MARGIN_PX = 4;
const MAX_STEPS = 400;

/** Height of a weight above the middle: 100 % reaches the edge of the row, more goes on half as fast. */
export function toY(weight: number, height: number): number {
  return (
    height / 2 -
    Math.min(weight, 1) * (height / 2 - MARGIN_PX) +
    (weight > 1 ? -Math.min(weight - 1, 0.5) * MARGIN_PX : 0)
  );
}

export function toWeight(y: number, height: number): number {
  const weight = (height / 2 - y) / (height / 2 - MARGIN_PX);
  return Math.round(Math.min(1, Math.max(0, weight)) * 100) / 100;
}

/** Outline of a weight over time, by the name of its samples, as a closed path about the middle of the row. */
export function outline(array: string, x: TimeScale, window: [number, number], height: number): string {
  const state = motion.getState();
  const data = state.arrays.get(array)?.data;
  if (!data) return "";
  const [from, to] = rowsWithin(window[0], window[1], state);
  const step = Math.max(1, Math.ceil((to - from) / MAX_STEPS));
  const top: string[] = [];
  const bottom: string[] = [];
  for (let row = from; row <= to; row += step) {
    const y = toY(data[row] ?? 0, height);
    top.push(`${x(frameAt(row, state)).toFixed(1)},${y.toFixed(1)}`);
    bottom.push(`${x(frameAt(row, state)).toFixed(1)},${(height - y).toFixed(1)}`);
  }
  if (top.length === 0) return "";
  return `M${top.join("L")}L${bottom.reverse().join("L")}Z`;
}
