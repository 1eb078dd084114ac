import { useStore } from "zustand";
import type { Layer, SourceKind } from "../../api/types";
import { AddLayerMenu } from "../../parts/AddLayerMenu";
import { NameField } from "../../parts/NameField";
import { commit } from "../../stores/editing";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";
import { WholeLayerBar } from "./WholeLayerBar";

/** Name of the layer, its source, and what can be done with all of it. */
export function BoardHead({ layer }: { layer: Layer }) {
  const more = useStore(view, (state) => state.layers.length - 1);
  return (
    <div className="flex flex-col gap-0.5">
      <div className="flex items-center gap-2">
        <NameField key={layer.id} at={`layer:${layer.id}.name`} name={layer.name} label="Layer name" />
        <select
          className="cond shrink-0 bg-base-100 text-(--graphite) text-sm hover:text-base-content"
          aria-label="Source of the layer"
          title="Change source; swings are kept"
          value={layer.source.kind}
          onChange={(event) =>
            void commit({ type: "set_source", layer: layer.id, source: event.target.value as SourceKind })
          }
        >
          {serverTables().sources.map(({ kind }) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
        {more > 0 && (
          <span
            className="cond shrink-0 rounded-sm bg-(--wash) px-1.5 text-primary text-xs"
            title="The controls below the axes and the buttons here edit all selected layers; the axes are this layer's"
          >
            +{more} selected
          </span>
        )}
        <span className="ml-auto" />
        <AddLayerMenu />
      </div>
      <WholeLayerBar layer={layer} />
    </div>
  );
}
