import { paperOf } from "../../shared/paper";
import { type TimeScale, ticks } from "../../shared/timeScale";

export const RULER_HEIGHT_PX = 26;
const SHORT_PX = 5;
const PARTS = 4;
const LOOP_PX = 4;

type RulerLook = {
  window: [number, number];
  width: number;
  first: number;
  last: number;
  loop: [number, number] | null;
};

/** Frame numbers with their marks; the range outside the shot is dimmed, the loop range is underlined. */
export function drawRuler(
  context: CanvasRenderingContext2D,
  x: TimeScale,
  canvas: HTMLCanvasElement,
  { window, width, first, last, loop }: RulerLook,
): void {
  const { graphite, rule, text, primary } = paperOf(canvas);
  context.font = '11px "IBM Plex Mono"';
  context.fillStyle = graphite;
  context.strokeStyle = rule;
  const marks = ticks(window, width);
  const gap = (marks[1] ?? 2) - (marks[0] ?? 1);
  context.beginPath();
  for (const mark of marks) {
    context.fillText(String(mark), x(mark) + 3, 12);
    context.moveTo(x(mark), 4);
    context.lineTo(x(mark), RULER_HEIGHT_PX);
    for (let part = 1; part < PARTS && gap >= PARTS; part++) {
      context.moveTo(x(mark + (gap * part) / PARTS), RULER_HEIGHT_PX - SHORT_PX);
      context.lineTo(x(mark + (gap * part) / PARTS), RULER_HEIGHT_PX);
    }
  }
  context.stroke();
  context.fillStyle = text;
  context.globalAlpha = 0.12;
  context.fillRect(0, 0, Math.max(0, x(first)), RULER_HEIGHT_PX);
  context.fillRect(x(last), 0, width, RULER_HEIGHT_PX);
  if (!loop) return;
  context.globalAlpha = 1;
  context.fillStyle = primary;
  context.fillRect(x(loop[0]), RULER_HEIGHT_PX - LOOP_PX, Math.max(2, x(loop[1]) - x(loop[0])), LOOP_PX);
}
