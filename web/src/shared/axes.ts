/** The axes as the server names them, and how each looks: its ink and its dash. */
import type { AxisName } from "../api/types";
import { facts } from "../stores/facts";

export const AXES: readonly AxisName[] = facts().axes.map(({ name }) => name);

export const DASHES: Record<AxisName, readonly number[]> = {
  pan: [6, 3],
  tilt: [],
  roll: [1.5, 2.5],
  truck: [9, 2, 2, 2],
  pedestal: [14, 2],
  dolly: [4, 2, 1.5, 2],
  zoom: [2, 5],
};
