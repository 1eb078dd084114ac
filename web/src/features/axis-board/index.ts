/** The axis board of the selected layer, and the form of its source. */
export { AxisBoard } from "./AxisBoard";
