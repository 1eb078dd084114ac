/** The axis board of the selected layer, and the form of its source; fields that other boards show too. */
export { AddLayerMenu } from "./AddLayerMenu";
export { AxisBoard } from "./AxisBoard";
export { ChoiceField } from "./ChoiceField";
export { Fields } from "./Fields";
export { NameField } from "./NameField";
export { SpanForm } from "./SpanForm";
