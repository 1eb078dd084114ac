import { useStore } from "zustand";
import type { Formula } from "../../api/types";
import { type FormulaPlace, view } from "../../stores/view";
import { figures } from "./figures";

type FormulaNumberProps = { formula: Formula; place: FormulaPlace; value: number; className: string };

/** A number that a formula gives: its value, and a way into the strip where the formula is written. */
export function FormulaNumber({ formula, place, value, className }: FormulaNumberProps) {
  const open = useStore(view, (state) => state.formula?.at === place.at);
  const wrong = formula.draft !== null && formula.draft !== undefined;
  const hint = wrong
    ? `${place.title}: “${formula.draft}” is not valid yet; the previous formula stays active`
    : `${place.title} = ${formula.text}`;
  return (
    <button
      type="button"
      aria-label={`Formula of ${place.title}`}
      aria-pressed={open}
      title={hint}
      className={`num truncate rounded-sm px-1 text-right text-xs hover:bg-base-300/60 ${open ? "bg-(--wash) text-primary" : ""} ${wrong ? "text-error" : ""} ${className}`}
      onClick={() => view.setState({ formula: open ? null : place })}
    >
      <b className="font-medium">=</b> {figures(value, place.digits)} <span className="opacity-80">{place.unit}</span>
    </button>
  );
}
