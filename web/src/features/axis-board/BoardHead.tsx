import { Copy, Dices, Trash2 } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import type { Layer, SourceKind } from "../../api/types";
import { AXES } from "../../shared/axes";
import { NumberField } from "../../shared/NumberField";
import { SOURCE_FIELDS } from "../../shared/sourceFields";
import { idsAlike } from "../../stores/selection";
import { cancelPreview, commit, preview } from "../../stores/session";
import { view } from "../../stores/view";
import { AddLayerMenu } from "./AddLayerMenu";

/** Name of the layer and what can be done with all of it. */
export function BoardHead({ layer }: { layer: Layer }) {
  const more = useStore(view, (state) => state.layers.length - 1);
  const scale = (percent: number) => ({
    type: "scale_swings" as const,
    layers: idsAlike(layer.id),
    factor: percent / 100,
    axes: [...AXES],
  });
  return (
    <div className="flex flex-col gap-1.5">
      <div className="flex items-center gap-2">
        <LayerName key={layer.id + layer.name} layer={layer} />
        <select
          className="cond shrink-0 bg-base-100 text-(--graphite) text-sm hover:text-base-content"
          aria-label="Source of the layer"
          title="Another source; the axes keep their swings"
          value={layer.source.kind}
          onChange={(event) => {
            const source = event.target.value as SourceKind;
            void commit({ type: "set_source", layer: layer.id, source });
          }}
        >
          {(Object.keys(SOURCE_FIELDS) as SourceKind[]).map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
        {more > 0 && (
          <span
            className="cond shrink-0 rounded-sm bg-(--wash) px-1.5 text-primary text-xs"
            title="What is changed below the axes, and the buttons here, go to all selected layers; the axes are this one's"
          >
            and {more} more
          </span>
        )}
        <span className="ml-auto" />
        <AddLayerMenu />
      </div>
      <div className="cond flex items-center gap-1 text-xs">
        <span className="text-(--graphite)">all swings ×</span>
        <NumberField
          label="All swings"
          value={100}
          unit="%"
          speed={1}
          least={0}
          most={1000}
          digits={0}
          className="border border-base-300"
          onPreview={(value) => preview(scale(value))}
          onCommit={(value) => commit(scale(value))}
          onCancel={cancelPreview}
        />
        <span className="ml-auto" />
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          title="New random start for all axes (N)"
          onClick={() => void commit({ type: "new_seeds", layers: idsAlike(layer.id) })}
        >
          <Dices size={13} /> New start
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          title="Duplicate with a new random start (Ctrl D)"
          onClick={() => void commit({ type: "duplicate_layers", layers: idsAlike(layer.id), keep_seed: false })}
        >
          <Copy size={13} /> Duplicate
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          title="Remove layer (Delete)"
          aria-label={`Remove ${layer.name}`}
          onClick={() => void commit({ type: "remove_layers", layers: idsAlike(layer.id) })}
        >
          <Trash2 size={13} />
        </button>
      </div>
    </div>
  );
}

function LayerName({ layer }: { layer: Layer }) {
  const [text, setText] = useState(layer.name);
  const finish = () => {
    const name = text.trim();
    if (!name) setText(layer.name);
    else if (name !== layer.name)
      void commit({ type: "set_values", values: [{ at: `layer:${layer.id}.name`, value: name }] });
  };
  return (
    <input
      className="cond w-44 min-w-0 truncate rounded-sm border border-transparent bg-transparent px-1 font-semibold text-[15px] hover:border-base-300 focus:border-primary"
      aria-label="Layer name"
      title={layer.name}
      maxLength={120}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setText(layer.name);
      }}
    />
  );
}
