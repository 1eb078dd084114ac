import { useStore } from "zustand";
import { AddLayerMenu } from "../../parts/AddLayerMenu";
import { findLayer, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { AxisTable } from "./AxisTable";
import { BoardHead } from "./BoardHead";
import { LayerForm } from "./LayerForm";
import { MoreForm } from "./MoreForm";
import { RowBar } from "./RowBar";
import { SourceForm } from "./SourceForm";

/** A row an axis, then the source's own numbers, then the layer's; what is rarely changed folds away. */
export function AxisBoard() {
  const state = useStore(openShot, (each) => each.state);
  const selected = useStore(view, (each) => each.layer);
  const layer = findLayer(state, selected);
  if (!layer) {
    return (
      <div className="flex flex-col gap-3 px-4 py-3">
        <h2 className="cond font-semibold text-[15px]">Axis board</h2>
        <p className="text-(--graphite) text-sm">
          The axes of the selected layer appear here, with swing, rate and picture movement.
        </p>
        <span>
          <AddLayerMenu />
        </span>
      </div>
    );
  }
  return (
    <div className="flex flex-col gap-[3px] px-3 py-1">
      <BoardHead layer={layer} />
      <AxisTable layer={layer} />
      <RowBar layer={layer} />
      <SourceForm layer={layer} />
      <LayerForm layer={layer} />
      <MoreForm layer={layer} />
    </div>
  );
}
