import type { Layer } from "../../api/types";
import { SpanForm } from "../../parts/SpanForm";
import { layerField } from "../../shared/fields";
import { ParamControl } from "../../shared/number";

/** The main numbers of a layer: strength, speed, time range. */
export function LayerForm({ layer }: { layer: Layer }) {
  const at = `layer:${layer.id}`;
  return (
    <div className="grid grid-cols-6 gap-x-2">
      <ParamControl stacked at={`${at}.weight`} param={layer.weight} look={layerField("weight")} />
      <ParamControl stacked at={`${at}.speed`} param={layer.speed} look={layerField("speed")} />
      <SpanForm at={at} />
    </div>
  );
}
