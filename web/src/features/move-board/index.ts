/** The board of the camera's move: its numbers at the present frame, its keys, placing the camera. */

export { MoveBoard } from "./MoveBoard";
