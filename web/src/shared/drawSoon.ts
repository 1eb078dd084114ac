/** Drawing on canvases. Where the processor draws all pictures, waveforms would hold up the picture through the lens: they then take turns, a little each frame, and while something is tried on one now and then. The browser draws them later than requested: a clock here does not measure their cost. */
import { previewState } from "../stores/preview";
import { drawsInSoftware } from "./renderer";

const BUDGET_MS = 1;
const EVERY_MS = 80;

const waiting = new Map<HTMLCanvasElement, () => void>();
let requested = false;

function take(): void {
  requested = false;
  const start = performance.now();
  const budget = busy() ? 0 : BUDGET_MS;
  for (const [canvas, draw] of waiting) {
    waiting.delete(canvas);
    if (canvas.isConnected) draw();
    if (performance.now() - start >= budget) break;
  }
  if (waiting.size > 0) next();
}

const busy = () => previewState.getState().command !== null;

function next(): void {
  if (requested) return;
  requested = true;
  if (busy()) setTimeout(() => requestAnimationFrame(take), EVERY_MS);
  else requestAnimationFrame(take);
}

/** Draws on a canvas, immediately where that is fast. Of drawings that wait for the same canvas only the last is made, in its turn. */
export function drawSoon(canvas: HTMLCanvasElement, draw: () => void): void {
  if (!drawsInSoftware()) {
    draw();
    return;
  }
  waiting.set(canvas, draw);
  next();
}
