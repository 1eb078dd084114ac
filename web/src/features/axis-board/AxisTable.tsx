import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";
import { AxisRow } from "./AxisRow";

/** Widths of axis, motion (what is left), swing, px and share of the picture, rate, switches. */
const COLUMNS_PX = [84, 0, 73, 46, 47, 77, 48];

/** Seven rows, one an axis. */
export function AxisTable({ layer }: { layer: Layer }) {
  const axes = useStore(view, (each) => each.axes);
  const reading = useStore(motion, ({ readings }) => readings?.layers.find((each) => each.layer === layer.id));
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
            <th>
              <span className="sr-only">switches</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {reading?.axes.map((row) => (
            <AxisRow key={row.axis} layer={layer} axis={row.axis} reading={row} selected={axes.includes(row.axis)} />
          ))}
        </tbody>
      </table>
    </>
  );
}
