import { Link2, Link2Off } from "lucide-react";
import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { commit } from "../../stores/editing";
import { view } from "../../stores/view";

/** Actions on several selected rows; the first one selected is the model. */
export function RowBar({ layer }: { layer: Layer }) {
  const axes = useStore(view, (state) => state.axes);
  const [model, ...others] = axes;
  if (!model || others.length === 0) return null;
  const linked = axes.some((axis) => layer.axes[axis].linked_to);
  return (
    <div className="cond flex flex-wrap items-center gap-1 rounded-sm bg-(--wash) px-2 py-1 text-xs">
      <span>{axes.length} axes</span>
      <span className="ml-auto" />
      <button
        type="button"
        className="btn btn-xs"
        title="Same swing and rate, each with its own seed"
        onClick={() => void commit({ type: "copy_axis", layer: layer.id, axis: model, to: others })}
      >
        Copy {model} to the others
      </button>
      <button
        type="button"
        className="btn btn-xs"
        title={`The others move exactly like ${model} does, each with its own swing`}
        onClick={() => void commit({ type: "link_axes", layer: layer.id, axes: others, to: model })}
      >
        <Link2 size={12} /> Link to {model}
      </button>
      {linked && (
        <button
          type="button"
          className="btn btn-xs"
          onClick={() => void commit({ type: "link_axes", layer: layer.id, axes, to: null })}
        >
          <Link2Off size={12} /> Unlink
        </button>
      )}
    </div>
  );
}
