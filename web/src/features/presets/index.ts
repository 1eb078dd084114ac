/** Presets: looked through, tried on, placed. */

export { PresetSheet } from "./PresetSheet";
export { PresetsButton } from "./PresetsButton";
