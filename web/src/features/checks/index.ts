export { CheckButton } from "./CheckButton";
export { CheckSheet } from "./CheckSheet";
export { FindingMarks } from "./FindingMarks";
