import type { Layer } from "../../api/types";
import { SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";

/** Numbers that every layer has. */
export function LayerForm({ layer }: { layer: Layer }) {
  const at = `layer:${layer.id}`;
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="weight"
        at={`${at}.weight`}
        param={layer.weight}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={1000}
        digits={0}
      />
      <ParamField
        title="speed"
        at={`${at}.speed`}
        param={layer.speed}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={10000}
        digits={0}
      />
      <SwitchField
        wide
        title="steady on screen"
        at={`${at}.steady`}
        value={layer.steady}
        hint="Keeps its size in the picture while the lens zooms"
      />
    </div>
  );
}
