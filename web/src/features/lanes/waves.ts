import type { AxisReading, Readings } from "../../api/types";
import { AXES } from "../../shared/axes";
import type { Wave } from "./drawWave";

/** The waves of some layers together, or of all, that move at all, measured in pixels of the picture, so that their sizes compare. */
export function wavesOf(readings: Readings | null, layers: string[] | null): Wave[] {
  const rows = (readings?.layers ?? []).filter((each) => !layers || layers.includes(each.layer));
  return AXES.flatMap((axis, column) => {
    const moving = rows.map((each) => each.axes[column]).findLast((row): row is AxisReading => row?.moves === true);
    return moving ? [{ axis, column, perUnit: moving.px_per_unit }] : [];
  });
}

/** The same as a text, for fast comparison. */
export function wavesText(readings: Readings | null, layers: string[] | null): string {
  return JSON.stringify(wavesOf(readings, layers));
}
