/** Bringing camera paths in, taking motion out. */
export { DropZone } from "./DropZone";
export { ExportDialog } from "./ExportDialog";
export { ImportDialog } from "./ImportDialog";
