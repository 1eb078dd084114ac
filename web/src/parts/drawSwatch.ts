/** The pictures on a card: where a preset takes the picture, and how it goes up and down in time. */
import type { Swatch } from "../api/types";
import type { Paper } from "../shared/paper";

const COLUMNS = 3;
/** A motion of this many pixels fills a scribble; smaller ones are drawn smaller, by the square root, so that sizes stay distinguishable. */
const FULL_PX = 60;
const MIN_FILL = 0.3;
const EDGE_PX = 9;
const MARGIN_PX = 2;

/** The path of the picture center, and next to it that of the right edge, which shows roll. */
export function drawScribble(
  context: CanvasRenderingContext2D,
  { scribble }: Swatch,
  width: number,
  height: number,
  { text, inks, rule }: Paper,
): void {
  const room = width - EDGE_PX - MARGIN_PX;
  let reach = 1e-6;
  for (let i = 0; i < scribble.length; i += COLUMNS) {
    const [x = 0, y = 0, edge = 0] = scribble.slice(i, i + COLUMNS);
    reach = Math.max(reach, Math.abs(x) * (height / room), Math.abs(y), Math.abs(y + edge));
  }
  const fill = Math.min(1, Math.max(MIN_FILL, Math.sqrt(reach / FULL_PX)));
  const scale = ((height / 2 - MARGIN_PX) * fill) / reach;
  context.strokeStyle = rule;
  context.strokeRect(0.5, 0.5, width - 1, height - 1);
  const line = (ink: string, middle: number, squeeze: number, withEdge: number) => {
    context.strokeStyle = ink;
    context.lineJoin = "round";
    context.lineWidth = 0.8;
    context.beginPath();
    for (let i = 0; i < scribble.length; i += COLUMNS) {
      const up = (scribble[i + 1] ?? 0) + withEdge * (scribble[i + 2] ?? 0);
      context.lineTo(middle + (scribble[i] ?? 0) * scale * squeeze, height / 2 - up * scale);
    }
    context.stroke();
  };
  line(inks.roll, width - EDGE_PX / 2 - MARGIN_PX, EDGE_PX / room, 1);
  line(text, room / 2, 1, 0);
}

/** Each axis as a band between its least and its largest. */
export function drawWaves(
  context: CanvasRenderingContext2D,
  { waves }: Swatch,
  width: number,
  height: number,
  { inks, rule }: Paper,
): void {
  const reach = Math.max(1e-6, ...waves.flatMap(({ least, most }) => [...least, ...most].map(Math.abs)));
  const scale = (height / 2 - 1) / reach;
  context.fillStyle = rule;
  context.fillRect(0, height / 2 - 0.5, width, 1);
  context.globalAlpha = 0.75;
  for (const { axis, least, most } of waves) {
    const step = width / Math.max(1, least.length);
    context.fillStyle = inks[axis];
    for (const [n, low] of least.entries()) {
      const high = most[n] ?? low;
      context.fillRect(n * step, height / 2 - high * scale - 0.4, step, (high - low) * scale + 0.8);
    }
  }
  context.globalAlpha = 1;
}
