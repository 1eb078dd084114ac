/** The current movie: its progress, and its renderer. */
import type { Texture } from "three";
import { createStore } from "zustand/vanilla";
import type { Moments } from "../api/movies";
import type { MovieState } from "../api/types";

export type Movie = MovieState;

/** Drawings of one frame. */
export type FrameOrder = {
  /** The shot's frame at which a drawing is. */
  at: (drawing: number) => number;
  /** Numbers by name at a drawing, where they begin. */
  row: (name: string, drawing: number) => { data: Float32Array; at: number } | null;
  /** The same for all drawings of the frame, in sequence. */
  rows: (name: string) => { data: Float32Array; at: number; columns: number } | null;
};

/** Overlay of a part of the frame, px from the top. */
export type Overlay = { texture: Texture; x: number; y: number; width: number; height: number };

export type Frames = {
  /** A frame as raw RGBA from the lowest row up. */
  make: (order: FrameOrder, overlays: Overlay[]) => Promise<Uint8Array>;
  dispose: () => void;
};

/** The graphics context went away while a frame was drawn: it is drawn again in the next scene. */
export class PictureLost extends Error {
  constructor() {
    super("the graphics context was lost; the picture has to be drawn again");
  }
}

export type Filming = {
  movie: Movie | null;
  /** Why it does not go on just now. */
  waits: string | null;
  /** Its error. */
  problem: string | null;
};

export const NO_MOVIE: Filming = { movie: null, waits: null, problem: null };

export const filming = createStore<Filming>(() => NO_MOVIE);

let frameMaker: ((movie: Movie) => Frames | null) | null = null;

/** Set by the owner of the scene. */
export function registerFrameRenderer(make: typeof frameMaker): void {
  frameMaker = make;
}

/** The renderer of a movie's frames; null without a scene. */
export function framesOf(movie: Movie): Frames | null {
  return frameMaker?.(movie) ?? null;
}

/** Drawings of the n-th of some frames, with a number of drawings each. */
export function orderOf({ at, arrays }: Moments, n: number, drawings: number): FrameOrder {
  const from = n * drawings;
  const rows = (name: string) => {
    const found = arrays.get(name === "bare" ? "pose:0" : name);
    return found ? { data: found.data, at: from * found.columns, columns: found.columns } : null;
  };
  return {
    at: (drawing) => at[from + drawing] ?? 0,
    rows,
    row: (name, drawing) => {
      const found = rows(name);
      return found && { data: found.data, at: found.at + drawing * found.columns };
    },
  };
}
