import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { AXIS_TITLES, FOLDED } from "../../shared/axes";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";
import { AxisRow } from "./AxisRow";

/** Widths of axis, motion (remaining width), swing, px and share of the picture, rate, switches. */
const COLUMNS_PX = [84, 0, 79, 46, 47, 77, 48];

/** One row an axis. */
export function AxisTable({ layer }: { layer: Layer }) {
  const axes = useStore(view, (each) => each.axes);
  const reading = useStore(motion, ({ readings }) => readings?.layers.find((each) => each.layer === layer.id));
  const all = useStore(view, (each) => each.allAxes);
  const rows = reading?.axes ?? [];
  const folded = all ? [] : rows.filter(({ axis, moves }) => FOLDED.includes(axis) && !moves);
  return (
    <>
      {reading?.finding && (
        <p role="status" className="text-error text-xs">
          {reading.finding}
        </p>
      )}
      <table className="w-full table-fixed" aria-label={`Axes of ${layer.name}`}>
        <colgroup>
          {COLUMNS_PX.map((px, index) => (
            <col key={index} style={{ width: px || undefined }} />
          ))}
        </colgroup>
        <thead>
          <tr className="cond border-base-300 border-b text-(--graphite) text-xs leading-none [&>th]:pb-0.5 [&>th]:font-normal">
            <th className="text-left">axis</th>
            <th className="text-left">motion</th>
            <th className="pr-1 text-right">swing</th>
            <th className="text-right" colSpan={2}>
              on screen
            </th>
            <th className="pr-1 text-right">rate</th>
            <th className="text-right">
              <FoldButton all={all} hides={folded.length > 0} />
            </th>
          </tr>
        </thead>
        <tbody>
          {rows
            .filter((row) => !folded.includes(row))
            .map((row) => (
              <AxisRow key={row.axis} layer={layer} axis={row.axis} reading={row} selected={axes.includes(row.axis)} />
            ))}
        </tbody>
      </table>
    </>
  );
}

/** Shows the rows that are folded away, or folds them again. */
function FoldButton({ all, hides }: { all: boolean; hides: boolean }) {
  if (!all && !hides) return <span className="sr-only">switches</span>;
  const titles = new Intl.ListFormat("en").format(FOLDED.map((axis) => AXIS_TITLES[axis]));
  return (
    <button
      type="button"
      aria-expanded={all}
      aria-label={`axes: ${titles}`}
      title={all ? `Hide ${titles} where they do not move` : `Show ${titles}`}
      className="-my-1.5 h-6 rounded-sm px-1 hover:bg-(--wash)"
      onClick={() => view.setState({ allAxes: !all })}
    >
      {all ? "− axes" : "+ axes"}
    </button>
  );
}
