import type { MotionArray } from "../api/motion";

const INKS = { cross: "#D8CDB6", line: "#20242F" };

/** Steps shorter than this, in pixels, are invisible. */
const STEP_PX = 0.7;

/** A path through pan and tilt, placed on the paper; invisible steps are omitted. */
export function trace(
  context: CanvasRenderingContext2D,
  { data, columns }: MotionArray,
  place: (pan: number, tilt: number) => [number, number],
): void {
  let [lastX, lastY] = [Infinity, Infinity];
  for (let i = 0; i < data.length; i += columns) {
    const [x, y] = place(data[i] ?? 0, data[i + 1] ?? 0);
    const last = i + columns >= data.length;
    if (!last && Math.abs(x - lastX) < STEP_PX && Math.abs(y - lastY) < STEP_PX) continue;
    context.lineTo(x, y);
    [lastX, lastY] = [x, y];
  }
}

/** Pan against tilt as an ink line, sized to fill; a cross where there is no shake. */
export function traceLine(
  context: CanvasRenderingContext2D,
  sum: MotionArray | null,
  width: number,
  height: number,
  inks = INKS,
): void {
  context.strokeStyle = inks.cross;
  context.beginPath();
  context.moveTo(width / 2, 6);
  context.lineTo(width / 2, height - 6);
  context.moveTo(6, height / 2);
  context.lineTo(width - 6, height / 2);
  context.stroke();
  if (!sum) return;
  let reach = 1e-6;
  for (let i = 0; i < sum.data.length; i += sum.columns) {
    reach = Math.max(reach, Math.abs(sum.data[i] ?? 0), Math.abs(sum.data[i + 1] ?? 0) * (width / height));
  }
  if (reach <= 1e-6) return;
  const scale = (width / 2 - Math.min(8, width * 0.06)) / reach;
  context.strokeStyle = inks.line;
  context.lineJoin = "round";
  context.lineWidth = width < 60 ? 0.6 : 1;
  context.globalAlpha = 0.8;
  context.beginPath();
  trace(context, sum, (across, up) => [width / 2 - across * scale, height / 2 - up * scale]);
  context.stroke();
  context.globalAlpha = 1;
}
