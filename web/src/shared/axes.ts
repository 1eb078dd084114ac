/** How each axis looks: its ink and its dash. Names, units and directions come from the server. */
import type { AxisName } from "../api/types";

export const AXES: readonly AxisName[] = ["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom"];

export const DASHES: Record<AxisName, readonly number[]> = {
  pan: [6, 3],
  tilt: [],
  roll: [1.5, 2.5],
  truck: [9, 2, 2, 2],
  pedestal: [14, 2],
  dolly: [4, 2, 1.5, 2],
  zoom: [2, 5],
};

export const UNITS: Record<AxisName, string> = {
  pan: "°",
  tilt: "°",
  roll: "°",
  truck: "cm",
  pedestal: "cm",
  dolly: "cm",
  zoom: "%",
};

/** The ink of an axis on the paper an element lies on. */
export function inkOf(element: Element, axis: AxisName): string {
  return getComputedStyle(element).getPropertyValue(`--ink-${axis}`).trim();
}
