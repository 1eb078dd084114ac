/** Overlays of a movie's frames: guides, names of several pictures, and the burn-in strip. */
import { CanvasTexture, LinearFilter } from "three";
import type { FrameOrder, Movie, Overlay } from "../stores/movie";
import { openShot } from "../stores/openShot";

const FOCAL = 6;
const PAPER = "#F4F0E6";
const INK = "#20242F";
const GRAPHITE = "#5F6470";
const SIGNAL = "#D1432B";
/** Across and up, in the inks and dashes of pan and tilt. */
const WAVES = [
  { ink: "#7A3E9D", dash: [7, 3] },
  { ink: "#9A5416", dash: [] },
];
const SAFE = 0.05;

type Sheet = { context: CanvasRenderingContext2D; overlay: Overlay; texture: CanvasTexture };

function sheet(x: number, y: number, width: number, height: number): Sheet {
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext("2d");
  if (!context) throw new Error("this browser cannot draw the strip");
  const texture = new CanvasTexture(canvas);
  texture.premultiplyAlpha = true;
  texture.generateMipmaps = false;
  texture.minFilter = LinearFilter;
  return { context, texture, overlay: { texture, x, y, width, height } };
}

export type Overlays = {
  /** Draws the overlay of a frame. */
  at: (n: number, order: FrameOrder, wave: Float32Array | null) => Overlay[];
  dispose: () => void;
};

export function overlaysOf(movie: Movie): Overlays {
  const guides = movie.guides || movie.regions.length > 1 ? drawStill(movie) : null;
  const foot = movie.strip > 0 ? sheet(0, movie.height - movie.strip, movie.width, movie.strip) : null;
  let drawn: HTMLCanvasElement | null = null;
  return {
    at: (n, order, wave) => {
      if (foot) {
        // The waveform of all frames is the same in each of them.
        drawn ??= wave && drawnWave(wave, waveBox(foot.context.canvas));
        drawStrip(foot.context, movie, n, order, drawn);
        foot.texture.needsUpdate = true;
      }
      return [guides, foot].flatMap((each) => each?.overlay ?? []);
    },
    dispose: () => {
      for (const each of [guides, foot]) each?.texture.dispose();
    },
  };
}

/** Guides and names, the same in all frames. */
function drawStill(movie: Movie): Sheet {
  const sheetCanvas = sheet(0, 0, movie.width, movie.height - movie.strip);
  const { context } = sheetCanvas;
  for (const { title, x, y, width, height, start, stop } of movie.regions) {
    context.save();
    context.beginPath();
    context.rect(x + start * width, y, (stop - start) * width, height);
    context.clip();
    if (movie.guides) {
      context.strokeStyle = "rgba(255, 255, 255, 0.45)";
      context.lineWidth = Math.max(1, height / 720);
      context.beginPath();
      for (const third of [1 / 3, 2 / 3]) {
        context.moveTo(x + third * width, y);
        context.lineTo(x + third * width, y + height);
        context.moveTo(x, y + third * height);
        context.lineTo(x + width, y + third * height);
      }
      context.stroke();
      context.strokeRect(x + SAFE * width, y + SAFE * height, (1 - 2 * SAFE) * width, (1 - 2 * SAFE) * height);
    }
    if (movie.regions.length > 1) {
      const size = Math.max(11, Math.round(height * 0.035));
      context.font = `600 ${size}px "IBM Plex Sans Condensed"`;
      const right = start > 0;
      const wide = context.measureText(title).width;
      const startX = right ? x + width - wide - 2 * size : x + size;
      context.fillStyle = "rgba(23, 24, 27, 0.8)";
      context.fillRect(startX - size / 2, y + size * 0.6, wide + size, size * 1.5);
      context.fillStyle = "#FFFFFF";
      context.textBaseline = "middle";
      context.fillText(title, startX, y + size * 1.38);
    }
    context.restore();
    if (start > 0) {
      context.fillStyle = "rgba(255, 255, 255, 0.9)";
      context.fillRect(x + start * width - 1, y, 2, height);
    }
  }
  return sheetCanvas;
}

function drawStrip(
  context: CanvasRenderingContext2D,
  movie: Movie,
  n: number,
  order: FrameOrder,
  wave: HTMLCanvasElement | null,
): void {
  const { width, height } = context.canvas;
  const { size, margin, text } = sizesOf(context.canvas);
  context.fillStyle = PAPER;
  context.fillRect(0, 0, width, height);
  const shot = openShot.getState().state?.document;
  const frame = movie.first_frame + n;
  // Several pictures are labeled with their names.
  const titles = movie.regions.length === 1 ? [movie.regions[0]?.title] : [];
  const several = (shot?.variants.length ?? 1) > 1;
  const pose = order.rows("pose:0");
  const focal = pose ? (pose.data[pose.at + FOCAL] ?? 0) : 0;
  context.textBaseline = "middle";
  context.fillStyle = INK;
  context.font = `600 ${size}px "IBM Plex Sans Condensed"`;
  const title = [shot?.name ?? movie.shot, ...(several ? titles : [])].join(" · ");
  context.fillText(title, margin, height * 0.32, text - 2 * margin);
  context.font = `${size}px "IBM Plex Mono"`;
  context.fillStyle = GRAPHITE;
  const caption = `${String(frame).padStart(4, "0")} · ${((frame - (shot?.first_frame ?? movie.first_frame)) / movie.fps).toFixed(2)} s · ${focal.toFixed(1)} mm`;
  context.fillText(caption, margin, height * 0.7, text - 2 * margin);
  const { left, right } = waveBox(context.canvas);
  if (wave) context.drawImage(wave, left, 0);
  const share = n / Math.max(movie.frames - 1, 1);
  context.fillStyle = SIGNAL;
  context.fillRect(left + (right - left) * share - 1, 0, 2, height);
}

type Size = { width: number; height: number };

/** Sizes of the type, of the margin, and of the text area, px. */
function sizesOf({ width, height }: Size) {
  const size = Math.max(10, Math.round(height * 0.24));
  return { size, margin: Math.round(size * 0.8), text: Math.min(width * 0.46, size * 24) };
}

function waveBox(strip: Size): { left: number; right: number; height: number } {
  const { margin, text } = sizesOf(strip);
  return { left: text, right: strip.width - margin, height: strip.height };
}

/** The waveform over all frames: of very many, the smallest and the largest at each pixel. */
function drawnWave(wave: Float32Array, { left, right, height }: { left: number; right: number; height: number }) {
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(right - left));
  canvas.height = height;
  const context = canvas.getContext("2d");
  if (!context) throw new Error("this browser cannot draw the strip");
  const count = wave.length / 2;
  let maximum = 1e-6;
  for (const value of wave) maximum = Math.max(maximum, Math.abs(value));
  const columns = Math.min(count, canvas.width);
  const y = (value: number) => height / 2 - (value / maximum) * (height / 2 - 4);
  WAVES.forEach(({ ink, dash }, axis) => {
    context.strokeStyle = ink;
    context.setLineDash(dash);
    context.lineWidth = Math.max(1, height / 40);
    context.beginPath();
    for (let column = 0; column < columns; column++) {
      const [from, to] = [column, column + 1].map((each) => Math.floor((each * count) / columns)) as [number, number];
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let at = from; at < to; at++) {
        const value = wave[2 * at + axis] ?? 0;
        low = Math.min(low, value);
        high = Math.max(high, value);
      }
      const x = (canvas.width * column) / Math.max(columns - 1, 1);
      context.lineTo(x, y(low));
      if (high > low) context.lineTo(x, y(high));
    }
    context.stroke();
  });
  return canvas;
}
