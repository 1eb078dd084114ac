/** Plates: the board of one, and where their edges show. */
export { CoverageBand } from "./CoverageBand";
export { PlateBoard } from "./PlateBoard";
