import type { MotionArray } from "../../api/motion";
import { paperOf } from "../../shared/paper";
import type { TimeScale } from "../../shared/timeScale";
import { facts } from "../../stores/facts";
import { motion } from "../../stores/motion";
import { drawWaves } from "./drawWave";

const PIN_ROW_PX = 16;
const FOOT_PX = 4;
const FILLS = 0.86;
const LEAST_REACH = 1e-6;

/** Least and largest value of a column. */
function reachOf({ data, columns }: MotionArray, column: number): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (let at = column; at < data.length; at += columns) {
    low = Math.min(low, data[at] ?? 0);
    high = Math.max(high, data[at] ?? 0);
  }
  return [low, high];
}

/** Draws the numbers of the bare move that change, each to its own height, in the inks of the axes they belong to. */
export function drawMove(context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement): void {
  const bare = motion.getState().arrays.get("bare");
  if (!bare) return;
  const { inks } = paperOf(canvas);
  const height = canvas.clientHeight - PIN_ROW_PX - FOOT_PX;
  const box = { top: PIN_ROW_PX, height, width: canvas.clientWidth };
  for (const [column, { ink, group }] of facts().forms.move.entries()) {
    if (group === "lens") continue;
    const [low, high] = reachOf(bare, column);
    if (high - low < LEAST_REACH) continue;
    const middle = (low + high) / 2;
    const data = bare.data.map((value, i) => (i % bare.columns === column ? value - middle : value));
    // Forward is up, as on the axis board, where the world's z grows backwards.
    const perUnit = (ink === "dolly" ? -1 : 1) / (high - low);
    drawWaves(context, { ...bare, data }, [{ axis: ink, column, perUnit }], x, box, box.height * FILLS, inks, 0.9);
  }
}
