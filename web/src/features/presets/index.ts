/** Presets: looked through, tried on, compared, placed, saved. */

export { OriginDialog } from "./OriginDialog";
export { PresetDialog } from "./PresetDialog";
export { PresetSheet } from "./PresetSheet";

export { TrialPane } from "./TrialPane";
