import type { AxisName } from "../../api/types";
import { DASHES } from "../../shared/axes";
import { view } from "../../stores/view";

/** An axis by its ink, dash and name; a click selects its row, Shift or Ctrl adds it to those selected. */
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
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    const without = axes.filter((each) => each !== axis);
    view.setState({ axes: axes.includes(axis) ? (more ? without : []) : more ? [...axes, axis] : [axis] });
  };
  return (
    <button
      type="button"
      aria-pressed={selected}
      title={linked ? `Moves as ${linked} does` : "Select; Shift adds rows, edits then go to all of them"}
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
      {axis}
    </button>
  );
}
