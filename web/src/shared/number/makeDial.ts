import { commit } from "../../stores/editing";
import { type FormulaPlace, view } from "../../stores/view";

/** Makes a dial of a number: it takes its value or keys over, and the number reads it. */
export function makeDial({ at, unit, times }: FormulaPlace): void {
  void commit({ type: "make_dial", at, unit, times }, { kept: () => view.setState({ formula: null }) });
}
