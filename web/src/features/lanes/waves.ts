import type { Layer, Readings } from "../../api/types";
import { AXES } from "../../shared/axes";
import type { Wave } from "./drawWave";

/** The waves of a layer that move at all, measured in pixels of the picture, so that their sizes compare. */
export function wavesOf(layer: Layer, readings: Readings | null): Wave[] {
  const rows = readings?.layers.find((each) => each.layer === layer.id)?.axes ?? [];
  return AXES.flatMap((axis, column) => {
    const row = rows[column];
    return row?.moves ? [{ axis, column, perUnit: row.px_per_unit }] : [];
  });
}

/** Pixels of the picture a unit of each axis, from whichever layer tells. */
export function sumWaves(layers: Layer[], readings: Readings | null): Wave[] {
  const found = new Map<string, Wave>();
  for (const layer of layers) for (const wave of wavesOf(layer, readings)) found.set(wave.axis, wave);
  return AXES.flatMap((axis) => found.get(axis) ?? []);
}
