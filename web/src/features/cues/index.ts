/** Cues: named moments on a separate row, and the board of the selected ones. */

export { CueBoard } from "./CueBoard";
export { CueRow } from "./CueRow";
