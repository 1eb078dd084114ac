/** Dials: the row of them at the foot of the lanes, and the dialog that makes and changes them. */

export { DialDialog } from "./DialDialog";
export { DialRow } from "./DialRow";
