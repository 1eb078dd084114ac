/** The list of revisions: looked at, named, returned to. */
export { HistoryDialog } from "./HistoryDialog";
