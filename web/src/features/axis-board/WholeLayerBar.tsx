import { Copy, Dices, Trash2 } from "lucide-react";
import type { Command, Layer } from "../../api/types";
import { AXES } from "../../shared/axes";
import { limitsOf } from "../../shared/fields";
import { ShareField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { preview } from "../../stores/preview";
import { idsAlike } from "../../stores/selection";

/** Actions on a layer as a whole, or on all selected ones. */
export function WholeLayerBar({ layer }: { layer: Layer }) {
  const layers = () => idsAlike(layer.id);
  const scale = (factor: number): Command => ({
    type: "scale_swings",
    layers: layers(),
    factor,
    axes: [...AXES],
  });
  return (
    <div className="cond flex items-center gap-1 text-xs">
      <span className="text-(--graphite)">All swings ×</span>
      <ShareField
        label="All swings"
        value={1}
        limits={limitsOf("scale_swings.factor")}
        step={1}
        onPreview={(factor) => preview(scale(factor))}
        onCommit={(factor) => commit(scale(factor))}
      />
      <span className="ml-auto" />
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        title="New seeds for all axes (N)"
        onClick={() => void commit({ type: "new_seeds", layers: layers() })}
      >
        <Dices size={13} /> New seed
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        title="Duplicate with a new seed (Ctrl D)"
        onClick={() => void commit({ type: "duplicate_layers", layers: layers(), keep_seed: false })}
      >
        <Copy size={13} /> Duplicate
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        title="Remove layer (Delete)"
        aria-label={`Remove ${layer.name}`}
        onClick={() => void commit({ type: "remove_layers", layers: layers() })}
      >
        <Trash2 size={13} />
      </button>
    </div>
  );
}
