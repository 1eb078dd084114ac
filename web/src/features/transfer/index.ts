/** Bringing camera paths in, taking motion out. */

export { ExportDialog } from "./ExportDialog";
export { FilmingChip } from "./FilmingChip";
