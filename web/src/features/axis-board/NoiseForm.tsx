import type { Layer } from "../../api/types";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";

const OCTAVES = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/** Numbers of the noise source. */
export function NoiseForm({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "noise") return null;
  const { source } = layer;
  const at = `layer:${layer.id}.source`;
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="rate"
        at={`${at}.rate_hz`}
        param={source.rate_hz}
        unit="Hz"
        speed={0.02}
        least={0}
        most={500}
        scales
      />
      <ChoiceField title="octaves" at={`${at}.octaves`} value={source.octaves} choices={OCTAVES} />
      <ParamField
        title="persistence"
        at={`${at}.persistence`}
        param={source.persistence}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={100}
        digits={0}
      />
      <SwitchField
        title="loop"
        at={`${at}.loop`}
        value={source.loop}
        hint="The first frame follows the last without a jump"
      />
    </div>
  );
}
