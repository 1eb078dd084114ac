/** An action by name: in the command list, perhaps with keys. */
import type { Layer, Shot } from "../../api/types";
import { findLayer, openShot } from "../../stores/openShot";
import { selectedLayers } from "../../stores/selection";
import { view } from "../../stores/view";

export type Action = { id: string; title: string; keys: string[]; available?: () => boolean; run: () => void };

/** The layer on the board. */
export const chosen = (): Layer | null => findLayer(openShot.getState().state, view.getState().layer);

export const withLayer = (): boolean => chosen() !== null;

export const chosenIds = (): string[] => selectedLayers().map((layer) => layer.id);

/** The open shot's document. */
export const shotNow = (): Shot | null => openShot.getState().state?.document ?? null;
