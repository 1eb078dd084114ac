import type { Layer } from "../../api/types";
import { howToSelect, placesAlike, selectLayer } from "../../stores/selection";
import { HullShape } from "./HullShape";
import type { Chosen } from "./LayerHead";
import { LayerWave } from "./LayerWave";
import { rowHeight } from "./rowHeight";
import { SpanGrips } from "./SpanGrips";
import { StepMarks } from "./StepMarks";
import { useHeard, useLayerSpan } from "./useLayerReading";
import { WeightEditor } from "./WeightEditor";

type LayerLaneProps = { layer: Layer; width: number; chosen: Chosen; compact: boolean };

/** Addresses of the layers that a change of this one's span goes to. */
const spansOfSelection = (id: string) => placesAlike(`layer:${id}.span`).map((place) => place.replace(/\.span$/, ""));

/** A layer's waveform inside the hull of its weight; its span, ramps and weight are dragged on it. */
export function LayerLane({ layer, width, chosen, compact }: LayerLaneProps) {
  const height = rowHeight(compact, chosen === "board") - 1;
  const activeSpan = useHeard(layer.id);
  const span = useLayerSpan(layer.id);
  const size = { width, height };
  return (
    <div
      className={`relative overflow-hidden border-base-300 border-b ${chosen === "no" ? "hover:bg-base-200/60" : "bg-(--wash)"}`}
      style={{ height: height + 1, width }}
    >
      <HullShape array={`weight:${layer.id}`} {...size} />
      <button
        type="button"
        aria-label={`Select layer ${layer.name}`}
        className="relative block w-full cursor-pointer"
        onClick={(event) => selectLayer(layer.id, howToSelect(event))}
      >
        <LayerWave {...size} name={layer.name} array={`layer:${layer.id}`} of={[layer.id]} faint={!activeSpan} />
      </button>
      {chosen === "board" && (
        <WeightEditor
          at={`layer:${layer.id}.weight`}
          alike={() => placesAlike(`layer:${layer.id}.weight`)}
          title={`Weight of ${layer.name}`}
          param={layer.weight}
          {...size}
        />
      )}
      {chosen !== "no" && span && (
        <SpanGrips at={() => spansOfSelection(layer.id)} span={span} name={layer.name} {...size} />
      )}
      {layer.source.kind === "gait" && <StepMarks layer={layer} {...size} />}
    </div>
  );
}
