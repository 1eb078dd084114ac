/** Drawing on canvases. Where the processor draws all pictures, waveforms would hold up the picture through the lens: they then take turns, a little each frame. */
import { drawsInSoftware } from "./renderer";

const BUDGET_MS = 1;

const waiting = new Map<HTMLCanvasElement, () => void>();
let asked = false;

function take(): void {
  asked = false;
  const start = performance.now();
  for (const [canvas, draw] of waiting) {
    if (performance.now() - start > BUDGET_MS) break;
    waiting.delete(canvas);
    if (canvas.isConnected) draw();
  }
  if (waiting.size > 0) next();
}

function next(): void {
  if (asked) return;
  asked = true;
  requestAnimationFrame(take);
}

/** Draws on a canvas, at once where that is quick. Of drawings that wait for the same canvas only the last is made, in its turn. */
export function drawSoon(canvas: HTMLCanvasElement, draw: () => void): void {
  if (!drawsInSoftware()) {
    draw();
    return;
  }
  waiting.set(canvas, draw);
  next();
}
