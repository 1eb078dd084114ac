/** The board of the camera's move: its numbers at the present frame, its keys, placing the camera. */
export { keyHere, keysAt, moveCommand } from "./commands";
export { MoveBoard } from "./MoveBoard";
export { extend, runOn, stretch } from "./pins";
export { aim, fromOutside, level, snap, square, takeLens } from "./placing";
