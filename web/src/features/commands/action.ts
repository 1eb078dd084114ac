/** An action by name: in the command list, perhaps with keys. */
import type { Layer, Shot } from "../../api/types";
import { findLayer, openShot } from "../../stores/openShot";
import { selection } from "../../stores/selection";

export type Action = {
  id: string;
  title: string;
  /** Other words by which people look for it. */
  also?: string;
  keys: string[];
  /** Whether it applies to the selection. */
  available?: () => boolean;
  /** A key that is held does it again and again. */
  repeats?: boolean;
  run: () => void;
};

/** The layer on the board; none while something else is selected. */
export const chosen = (): Layer | null => {
  const now = selection();
  return now.kind === "layers" ? findLayer(openShot.getState().state, now.shown) : null;
};

export const withLayer = (): boolean => chosen() !== null;

/** Ids of the selected layers; none while something else is selected. */
export const chosenIds = (): string[] => {
  const now = selection();
  return now.kind === "layers" ? now.ids : [];
};

/** The open shot's document. */
export const shotNow = (): Shot | null => openShot.getState().state?.document ?? null;
