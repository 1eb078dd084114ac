import type { Layer } from "../../api/types";
import { roughly, varies } from "../../shared/number";
import { howToSelect, placesAlike, selectLayer } from "../../stores/selection";
import { Hull } from "./Hull";
import { HullLevel } from "./HullLevel";
import { HullShape } from "./HullShape";
import type { Chosen } from "./LayerHead";
import { LayerWave } from "./LayerWave";
import { rowHeight } from "./rowHeight";
import { SpanGrips } from "./SpanGrips";
import { useHeard, useLayerSpan } from "./useLayerReading";

type LayerLaneProps = { layer: Layer; width: number; chosen: Chosen; compact: boolean };

/** Addresses of the layers that a change of this one's span goes to. */
const alike = (id: string) => placesAlike(`layer:${id}.span`).map((place) => place.replace(/\.span$/, ""));

/** A layer's waveform inside the hull of its weight; its span, ramps and weight are dragged on it. */
export function LayerLane({ layer, width, chosen, compact }: LayerLaneProps) {
  const height = rowHeight(compact, chosen === "board") - 1;
  const heard = useHeard(layer.id);
  const span = useLayerSpan(layer.id);
  const size = { width, height };
  return (
    <div
      className={`relative overflow-hidden border-base-300 border-b ${chosen === "no" ? "hover:bg-base-200/60" : "bg-(--wash)"}`}
      style={{ height: height + 1, width }}
    >
      <HullShape layer={layer} {...size} />
      <button
        type="button"
        aria-label={`Select layer ${layer.name}`}
        className="relative block w-full cursor-pointer"
        onClick={(event) => selectLayer(layer.id, howToSelect(event))}
      >
        <LayerWave {...size} layer={layer.id} faint={!heard} />
      </button>
      {chosen === "board" && <Hull layer={layer} {...size} />}
      {chosen === "board" && !varies(layer.weight) && (
        <HullLevel id={layer.id} name={layer.name} weight={roughly(layer.weight)} {...size} />
      )}
      {chosen !== "no" && span && <SpanGrips at={() => alike(layer.id)} span={span} name={layer.name} {...size} />}
    </div>
  );
}
