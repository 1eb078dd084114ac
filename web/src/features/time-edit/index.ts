export { TimeEditRow } from "./TimeEditRow";
