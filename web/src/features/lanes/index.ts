/** The timeline's rows: ruler, move, clips with their layers, sum. */
export { Lanes } from "./Lanes";
export { moveFrames, pinTitles } from "./moveFrames";
