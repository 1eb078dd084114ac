/** What a shot is made of: frame rate, range, picture, lens, set; asked for a new one, changed for one that is there. */

export { ShotDialog } from "./ShotDialog";
