/** Alternatives of a shot: which one is shown, all that is done with them, and looking at several at once. */
export { BlindBar } from "./BlindBar";
export { BlindTest } from "./BlindTest";
export { OverFinder } from "./OverFinder";
export { SidePane } from "./SidePane";
export { VariantMenu } from "./VariantMenu";
export { VariantsDialog } from "./VariantsDialog";
