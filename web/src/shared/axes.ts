/** The axes as the server names them, and how each looks: its ink and its dash. */
import type { AxisName, Command, Layer } from "../api/types";
import { serverTables } from "../stores/serverTables";

export const AXES: readonly AxisName[] = serverTables().axes.map(({ name }) => name);

const inUnit = (sign: string) =>
  serverTables()
    .axes.filter((each) => each.sign === sign)
    .map(({ name }) => name);

/** Display name of an axis. */
export const AXIS_TITLES = Object.fromEntries(serverTables().axes.map(({ name, title }) => [name, title])) as Record<
  AxisName,
  string
>;

/** Shown when they are asked for, or move. */
export const FOLDED: readonly AxisName[] = serverTables()
  .axes.filter(({ folds }) => folds)
  .map(({ name }) => name);

export const ROTATIONS: readonly AxisName[] = inUnit("°");
export const TRANSLATIONS: readonly AxisName[] = inUnit("cm");

/** Switches on some axes of a layer and all others off; locked ones are unchanged. */
export function onlyAxes(layer: Layer, wanted: readonly AxisName[]): Command {
  const free = AXES.filter((axis) => !layer.axes[axis].locked);
  const values = free.map((axis) => ({ at: `layer:${layer.id}.axes.${axis}.on`, value: wanted.includes(axis) }));
  return { type: "set_values", values };
}

export const DASHES: Record<AxisName, readonly number[]> = {
  pan: [6, 3],
  tilt: [],
  roll: [1.5, 2.5],
  truck: [9, 2, 2, 2],
  pedestal: [14, 2],
  dolly: [4, 2, 1.5, 2],
  zoom: [2, 5],
  shift_x: [9, 4, 1, 4],
  shift_y: [14, 2, 1, 2],
};
