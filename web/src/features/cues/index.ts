/** Cues: named moments on a row of their own, and the board of those that are selected. */

export { CueBoard } from "./CueBoard";
export { CueRow } from "./CueRow";
