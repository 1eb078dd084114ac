/** Variants of a shot: the active one, actions on them, and comparison of several. */
export { BlindBar } from "./BlindBar";
export { BlindTest } from "./BlindTest";
export { OverFinder } from "./OverFinder";
export { SidePane } from "./SidePane";
export { VariantMenu } from "./VariantMenu";
export { VariantsDialog } from "./VariantsDialog";
