import { drawsInSoftware } from "./renderer";

/** A canvas sized for the screen's pixels, cleared. */
export function prepare(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const ratio = window.devicePixelRatio || 1;
  const w = Math.max(1, Math.round(width * ratio));
  const h = Math.max(1, Math.round(height * ratio));
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  // Without a graphics processor, long dashed lines are drawn far faster by the plain processor path.
  const context = canvas.getContext("2d", { willReadFrequently: drawsInSoftware() });
  if (!context) return null;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.globalAlpha = 1;
  context.setLineDash([]);
  context.clearRect(0, 0, width, height);
  return context;
}

/** Line width for drawing: with software rendering, a line of up to one device pixel is six times faster. */
export function pen(width: number): number {
  return drawsInSoftware() ? Math.min(width, 1 / (window.devicePixelRatio || 1)) : width;
}
