/** The axes as the server names them, and how each looks: its ink and its dash. */
import type { AxisInfo, AxisName, Command, Layer } from "../api/types";
import { serverTables } from "../stores/serverTables";

const { axes } = serverTables();
const namesOf = (some: readonly AxisInfo[]): readonly AxisName[] => some.map(({ name }) => name);
const byName = <T>(of: (axis: AxisInfo) => T) =>
  Object.fromEntries(axes.map((each) => [each.name, of(each)])) as { [name in AxisName]: T };

export const AXES = namesOf(axes);
export const ROTATIONS = namesOf(axes.filter(({ sign }) => sign === "°"));
export const TRANSLATIONS = namesOf(axes.filter(({ sign }) => sign === "cm"));

/** Shown when they are asked for, or move. */
export const FOLDED = namesOf(axes.filter(({ folds }) => folds));

/** Display name of an axis. */
export const AXIS_TITLES = byName(({ title }) => title);

/** Dash pattern of the line of an axis. */
export const DASHES = byName(({ dash }) => dash);

/** Names of the axes' columns in recorded takes. */
export const COLUMNS: readonly string[] = axes.map(({ column }) => column);

/** Switches on some axes of a layer and all others off; locked ones are unchanged. */
export function onlyAxes(layer: Layer, wanted: readonly AxisName[]): Command {
  const free = AXES.filter((axis) => !layer.axes[axis].locked);
  const values = free.map((axis) => ({ at: `layer:${layer.id}.axes.${axis}.on`, value: wanted.includes(axis) }));
  return { type: "set_values", values };
}
