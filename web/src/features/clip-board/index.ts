/** The board of the selected clip: its name, how much and how fast, when, and what is done with it. */
export { ClipBoard } from "./ClipBoard";
