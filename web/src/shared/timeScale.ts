/** Frames across the lanes. */
import { scaleLinear } from "d3-scale";

export type TimeScale = { (frame: number): number; invert(x: number): number };

/** From a window of frames to pixels. */
export function timeScale(window: [number, number], width: number): TimeScale {
  const margin = Math.min(8, width / 10);
  return scaleLinear()
    .domain(window[0] === window[1] ? [window[0], window[0] + 1] : window)
    .range([margin, Math.max(width - margin, margin + 1)]);
}

/** Some of the pixels of a scale that many share. */
export type Part = { left: number; of: number };

/** The scale of a window over a part of the lanes: pixels are counted from its left edge. */
export function scaleOfPart(window: [number, number], width: number, part?: Part): TimeScale {
  if (!part) return timeScale(window, width);
  const fullScale = timeScale(window, part.of);
  return Object.assign((frame: number) => fullScale(frame) - part.left, {
    invert: (x: number) => fullScale.invert(x + part.left),
  });
}

/** A window zoomed about a frame, kept within sense. */
export function zoomed(
  window: [number, number],
  about: number,
  factor: number,
  first: number,
  last: number,
): [number, number] {
  const span = Math.min(Math.max((window[1] - window[0]) * factor, 4), (last - first) * 1.5 + 10);
  const share = (about - window[0]) / (window[1] - window[0]);
  const start = about - share * span;
  return [start, start + span];
}

/** Whole frames at which the ruler has a number. */
export function ticks(window: [number, number], width: number): number[] {
  const room = Math.max(2, Math.floor(width / 64));
  const raw = (window[1] - window[0]) / room;
  const size =
    [1, 2, 5, 10, 20, 24, 48, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 50000, 100000].find((each) => each >= raw) ??
    500000;
  const out: number[] = [];
  for (let at = Math.ceil((window[0] - 1) / size) * size + 1; at <= window[1]; at += size) out.push(at);
  return out;
}
