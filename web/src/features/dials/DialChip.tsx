import { useStore } from "zustand";
import type { Dial, FieldLook } from "../../api/types";
import { ParamControl } from "../../shared/number";
import { view } from "../../stores/view";

/** Pixels from minimum to maximum. */
const THROW_PX = 200;

/** Display and drag step of a dial's value. */
function lookOf({ name, unit, minimum, maximum }: Dial): FieldLook {
  const step = (maximum - minimum) / THROW_PX;
  const digits = Math.max(0, Math.min(4, Math.ceil(-Math.log10(step))));
  return {
    field: "value",
    title: name,
    kind: "number",
    unit,
    times: 1,
    step,
    digits,
    least: minimum,
    most: maximum,
    scales: false,
    choices: [],
    titles: {},
    group: name,
    hint: "",
    ink: "zoom",
  };
}

/** A dial: its name opens what it is, its value is dragged. */
export function DialChip({ dial }: { dial: Dial }) {
  const key = useStore(view, (state) => state.keyEveryChange);
  return (
    <span className="flex shrink-0 items-center gap-1 rounded-sm border border-base-300 px-1.5" data-dial={dial.name}>
      <button
        type="button"
        className="cond max-w-32 truncate text-[13px] hover:underline"
        title={`${dial.name}: ${dial.minimum} to ${dial.maximum} ${dial.unit}; click to change or remove it`}
        onClick={() => view.setState({ dialog: "dial", dial: dial.name })}
      >
        {dial.name}
      </button>
      <ParamControl
        at={`dial:${dial.name}.value`}
        param={dial.value}
        look={lookOf(dial)}
        label={`Dial ${dial.name}`}
        keyTitle={`dial ${dial.name}`}
        keys={key}
        live
        className="min-w-14"
      />
    </span>
  );
}
