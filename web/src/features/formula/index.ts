/** The strip where a formula is written: text with completion, the curve it gives, what is wrong with it. */
export { FormulaStrip } from "./FormulaStrip";
