import type { MotionArray } from "../api/motion";

const INKS = { cross: "#D8CDB6", line: "#20242F" };

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
  for (let i = 0; i < sum.data.length; i += sum.columns) {
    context.lineTo(width / 2 - (sum.data[i] ?? 0) * scale, height / 2 - (sum.data[i + 1] ?? 0) * scale);
  }
  context.stroke();
  context.globalAlpha = 1;
}
