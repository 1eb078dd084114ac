export type Rect = { x: number; y: number; width: number; height: number };

/** The largest rectangle of an aspect ratio inside another, centred. */
export function fitted(width: number, height: number, aspect: number): Rect {
  const w = Math.min(width, height * aspect);
  const h = w / aspect;
  return { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h };
}

/** Visible area with the surroundings shown: this many times the picture. */
export const AROUND = 1.3;
