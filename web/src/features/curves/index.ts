/** Curves and the frame table of what is selected, over the lanes, on the same time axis. */

export { CurveSheet, TableSheet } from "./Sheet";
