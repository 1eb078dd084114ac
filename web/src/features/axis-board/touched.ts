import type { AxisName } from "../../api/types";
import { view } from "../../stores/view";

/** The axes an edit of a row goes to: all selected ones when the row is among them. */
export function touched(axis: AxisName): AxisName[] {
  const { axes } = view.getState();
  return axes.includes(axis) ? axes : [axis];
}
