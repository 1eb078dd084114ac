/** The board of the selected clip: its name, amount and speed, time range, and actions. */
export { ClipBoard } from "./ClipBoard";
