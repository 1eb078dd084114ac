/** Properties of a shot: frame rate, range, picture, lens, set; entered for a new one, changed for an existing one. */

export { ShotDialog } from "./ShotDialog";
