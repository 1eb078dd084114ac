/** The timeline's rows: ruler, move, clips with their layers, sum. */
export type { MarkEntry, RowEntry, SheetEntry } from "./entries";
export { Lanes } from "./Lanes";
export { RigRows } from "./RigRows";
