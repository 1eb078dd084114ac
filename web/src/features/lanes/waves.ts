import type { Layer, Readings } from "../../api/types";
import { AXES } from "../../shared/axes";
import type { Wave } from "./drawWave";

/** The waves of a layer that move at all, measured in pixels of the picture, so that their sizes compare. */
export function wavesOf(layer: Layer, readings: Readings | null): Wave[] {
  const rows = readings?.layers.find((each) => each.layer === layer.id)?.axes ?? [];
  return AXES.flatMap((axis, column) => {
    const row = rows[column];
    const moves = layer.axes[axis].on && row !== undefined && row.swing > 0;
    return moves ? [{ axis, column, perUnit: row.swing_px / row.swing }] : [];
  });
}

/** Pixels of the picture a unit of each axis, from whichever layer tells. */
export function sumWaves(layers: Layer[], readings: Readings | null): Wave[] {
  const found = new Map<string, Wave>();
  for (const layer of layers) for (const wave of wavesOf(layer, readings)) found.set(wave.axis, wave);
  return AXES.flatMap((axis) => found.get(axis) ?? []);
}
