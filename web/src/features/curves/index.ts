/** Curves and the frame table of what is selected, over the lanes, on the same time axis. */

export { dialGroup } from "./groups";
export { Sheet } from "./Sheet";
