import { useStore } from "zustand";
import { AXES } from "../../shared/axes";
import { motion } from "../../stores/motion";
import { findLayer, session } from "../../stores/session";
import { view } from "../../stores/view";
import { AddLayerMenu } from "./AddLayerMenu";
import { AxisRow } from "./AxisRow";
import { BoardHead } from "./BoardHead";
import { FormOfSource } from "./FormOfSource";
import { LayerForm } from "./LayerForm";
import { RowBar } from "./RowBar";
import { Spectrum } from "./Spectrum";

/** Widths of axis, motion (what is left), swing, px and share of the picture, rate, switches. */
const COLUMNS_PX = [84, 0, 74, 50, 54, 64, 42];

/** Seven rows, then the source's own numbers, then the layer's. */
export function AxisBoard() {
  const state = useStore(session, (each) => each.state);
  const selected = useStore(view, (each) => each.layer);
  const axes = useStore(view, (each) => each.axes);
  const readings = useStore(motion, (each) => each.readings);
  const layer = findLayer(state, selected);
  if (!layer) {
    return (
      <div className="flex flex-col gap-3 px-4 py-3">
        <h2 className="cond font-semibold text-[15px]">Axis board</h2>
        <p className="text-(--graphite) text-sm">
          The seven axes of the selected layer appear here: how far each swings, how fast, and how many pixels that
          moves the picture.
        </p>
        <AddLayerMenu />
      </div>
    );
  }
  const rows = readings?.layers.find((each) => each.layer === layer.id)?.axes;
  return (
    <div className="flex flex-col gap-2 px-3 py-1.5">
      <BoardHead layer={layer} />
      <table className="w-full table-fixed" aria-label={`Axes of ${layer.name}`}>
        <colgroup>
          {COLUMNS_PX.map((px, index) => (
            <col key={index} style={{ width: px || undefined }} />
          ))}
        </colgroup>
        <thead>
          <tr className="cond border-base-300 border-b text-(--graphite) text-xs [&>th]:pb-0.5 [&>th]:font-normal">
            <th className="text-left">axis</th>
            <th className="text-left">motion</th>
            <th className="pr-1 text-right">swing</th>
            <th className="text-right" colSpan={2}>
              in the picture
            </th>
            <th className="pr-1 text-right">rate</th>
            <th>
              <span className="sr-only">switches</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {AXES.map((axis, index) => {
            const reading = rows?.[index];
            return reading ? (
              <AxisRow key={axis} layer={layer} axis={axis} reading={reading} selected={axes.includes(axis)} />
            ) : null;
          })}
        </tbody>
      </table>
      <RowBar layer={layer} axes={axes} />
      <FormOfSource layer={layer} />
      <LayerForm layer={layer} />
      {state && <Spectrum layer={layer} slug={state.slug} revision={state.revision} />}
    </div>
  );
}
