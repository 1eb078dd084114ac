/** The axis board of the selected layer, and the form of its source; fields that other boards show too. */

export { AxisBoard } from "./AxisBoard";
