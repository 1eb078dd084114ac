import type { AxisName } from "../../api/types";
import { AXES, AXIS_TITLES, DASHES } from "../../shared/axes";
import { between, pressed } from "../../stores/pressed";
import { howToSelect } from "../../stores/selection";
import { view } from "../../stores/view";

/** An axis by its ink, dash and name; a click selects its row, Ctrl adds it or takes it away, Shift selects up to it. */
export function AxisLabel({
  axis,
  quiet,
  selected,
  linked,
}: {
  axis: AxisName;
  quiet: boolean;
  selected: boolean;
  linked: string | null;
}) {
  const select = (event: React.MouseEvent) => {
    const { axes } = view.getState();
    const selection = howToSelect(event);
    if (selection === "range") view.setState({ axes: between(AXES, axes.at(-1) ?? axis, axis) });
    else if (selection === "toggle") view.setState({ axes: pressed(axis, axes, true) });
    else view.setState({ axes: axes.length === 1 && axes[0] === axis ? [] : [axis] });
  };
  return (
    <button
      type="button"
      aria-pressed={selected}
      title={
        linked
          ? `Linked to ${AXIS_TITLES[linked as AxisName]}`
          : "Select; Ctrl adds rows, Shift all up to here; edits then go to all of them"
      }
      className={`cond flex items-center gap-1 text-[13px] ${quiet ? "text-(--graphite)" : ""}`}
      onClick={select}
    >
      <svg width="14" height="4" aria-hidden="true">
        <line
          x1="0"
          x2="14"
          y1="2"
          y2="2"
          stroke={`var(--ink-${axis})`}
          strokeWidth="3"
          strokeDasharray={DASHES[axis].join(" ")}
        />
      </svg>
      {AXIS_TITLES[axis]}
    </button>
  );
}
