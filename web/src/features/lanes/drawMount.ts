import type { MotionArray } from "../../api/motion";
import { paperOf } from "../../shared/paper";
import type { TimeScale } from "../../shared/timeScale";
import { frameAt, motion, rowsWithin } from "../../stores/motion";

const FOOT_PX = 1;
const HEAD_PX = 3;
/** Less than this moves no picture: the row stays empty instead of showing rounding. */
const MIN_PX = 0.05;
const OUTSIDE_PX = 3;

/** Size of a row of an array, in pixels of the picture. */
type Size = (row: number) => number;

const alone =
  ({ data, columns }: MotionArray): Size =>
  (row) =>
    Math.abs(data[row * columns] ?? 0);

const both =
  ({ data, columns }: MotionArray): Size =>
  (row) =>
    Math.hypot(data[row * columns] ?? 0, data[row * columns + 1] ?? 0);

/** A filled line over the foot of the row, to its own height. Many frames to a pixel are drawn as their largest. */
function fill(
  context: CanvasRenderingContext2D,
  size: Size,
  rows: number,
  x: TimeScale,
  canvas: HTMLCanvasElement,
): void {
  const state = motion.getState();
  const width = canvas.clientWidth;
  const height = canvas.clientHeight - HEAD_PX - FOOT_PX;
  let maximum = 0;
  for (let row = 0; row < rows; row++) maximum = Math.max(maximum, size(row) || 0);
  if (maximum < MIN_PX) return;
  const [from, to] = rowsWithin(x.invert(0), x.invert(width));
  const heights = new Float32Array(Math.ceil(width) + 1);
  let before = -1;
  for (let row = from; row <= to; row++) {
    const at = Math.round(x(frameAt(row, state)));
    const value = size(row) || 0;
    for (let pixel = Math.max(0, before + 1); pixel <= Math.min(at, heights.length - 1); pixel++)
      heights[pixel] = Math.max(heights[pixel] ?? 0, value);
    before = at;
  }
  const foot = canvas.clientHeight - FOOT_PX;
  context.beginPath();
  context.moveTo(0, foot);
  heights.forEach((value, pixel) => {
    context.lineTo(pixel, foot - (value / maximum) * height);
  });
  context.lineTo(heights.length - 1, foot);
  context.closePath();
  context.fill();
}

/** Picture movement by a mount; for an aimed one the framing error instead, with a line where the subject is off screen. */
export function drawMount(
  context: CanvasRenderingContext2D,
  x: TimeScale,
  canvas: HTMLCanvasElement,
  mount: string,
  aims: boolean,
): void {
  const { arrays, rows } = motion.getState();
  const { graphite, text } = paperOf(canvas);
  const moved = arrays.get(`moves:mount:${mount}`);
  const framing = aims ? arrays.get("framing") : undefined;
  if (framing) {
    context.fillStyle = text;
    context.globalAlpha = 0.32;
    fill(context, both(framing), rows, x, canvas);
    context.globalAlpha = 1;
    const [from, to] = rowsWithin(x.invert(0), x.invert(canvas.clientWidth));
    for (let row = from; row <= to; row++)
      if (framing.data[row * framing.columns + 2] === 0)
        context.fillRect(x(frameAt(row)), canvas.clientHeight - OUTSIDE_PX, Math.max(1, x(1) - x(0)), OUTSIDE_PX);
  } else if (moved) {
    context.fillStyle = graphite;
    context.globalAlpha = 0.3;
    fill(context, alone(moved), rows, x, canvas);
    context.globalAlpha = 1;
  }
}
