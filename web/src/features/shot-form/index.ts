/** What a shot is made of: frame rate, range, picture, lens, set; asked for a new one, changed for one that is there. */
export { Complaint } from "./Complaint";
export { PictureChoice } from "./PictureChoice";
export { SetChoice, useSetFiles } from "./SetChoice";
export { ShotDialog } from "./ShotDialog";
export { typedFps } from "./shotTexts";
export { TextField } from "./TextField";
