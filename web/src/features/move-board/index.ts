/** The board of the camera's move: its numbers at the present frame, its keys, placing the camera. */
export { keyHere, keysAt, moveCommand } from "./commands";
export * as doings from "./doings";
export { MoveBoard } from "./MoveBoard";
