/** Positions on the page of the two pictures of the stage. */
import { createStore } from "zustand/vanilla";
import type { WorldPose } from "../api/types";
import { type Motion, motion } from "./motion";

/** A part of the camera that is gripped in the Set view. */
export type Ring = "pan" | "tilt" | "roll";
export type Part = Ring | "height" | "floor";

/** A picture of the scene: through the lens as some motion moves it, or from outside. */
export type Pane = {
  id: string;
  element: HTMLElement;
  camera: "lens" | "outside";
  /** The pose of its lens; null while it is loading. */
  motion: () => Motion | null;
  /** From where to where it is drawn, as shares of the picture's width; all of it when left out. */
  part?: () => [number, number];
};

export type StageState = {
  /** Pictures of the scene, in the order in which they are drawn. */
  panes: Pane[];
  aspect: number;
  setProblem: string | null;
  ready: boolean;
  /** Names of the set pieces. */
  pieces: string[];
  /** Pictures of plates that are not on this machine, by digest. */
  missing: string[];
  /** Plates that are drawn as they will be, by id: their pictures have come, or never will. */
  plates: string[];
  /** Number of drawn tiles of large pictures. */
  tiles: number;
  /** Counter of newly added pictures: missing ones are requested again. */
  hung: number;
  /** The machine draws too slowly for shadows. */
  slow: boolean;
  /** The part of the camera that the pointer is on in the Set view, or holds, and what to say of it. */
  grip: { part: Part; text: string } | null;
  /** Pictures are drawn with fewer pixels just now. */
  coarse: boolean;
};

export const stage = createStore<StageState>(() => ({
  panes: [],
  aspect: 16 / 9,
  setProblem: null,
  ready: false,
  pieces: [],
  missing: [],
  plates: [],
  tiles: 0,
  hung: 0,
  slow: false,
  coarse: false,
  grip: null,
}));

/** The large Viewfinder and the Set view. */
export const FINDER = "viewfinder";
export const SET_VIEW = "set-view";

/** Position of a pane on the page; null without one. */
export const elementOf =
  (id: string) =>
  ({ panes }: StageState): HTMLElement | null =>
    panes.find((pane) => pane.id === id)?.element ?? null;

/** Hangs a picture up; answers with what takes it down. */
export function hang(pane: Omit<Pane, "motion"> & Partial<Pane>): () => void {
  const hung: Pane = { motion: motion.getState, ...pane };
  stage.setState(({ panes }) => ({ panes: [...panes.filter(({ id }) => id !== pane.id), hung] }));
  return () => stage.setState(({ panes }) => ({ panes: panes.filter((each) => each !== hung) }));
}

/** Takes the whole path of the camera into the Set view. */
let fit: (() => void) | null = null;

export function tellFit(how: (() => void) | null): void {
  fit = how;
}

export function fitPath(): void {
  fit?.();
}

/** Camera of the Set view; set by its renderer. */
let ask: (() => WorldPose) | null = null;

export function tellOutside(how: (() => WorldPose) | null): void {
  ask = how;
}

export function outsidePose(): WorldPose | null {
  return ask?.() ?? null;
}
