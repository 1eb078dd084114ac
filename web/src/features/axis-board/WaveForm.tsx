import type { AxisName, Layer } from "../../api/types";
import { AXES } from "../../shared/axes";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";

const SHAPES = ["sine", "triangle", "soft square", "saw", "pulse"] as const;

/** Numbers of the wave source; a phase for each axis that moves. */
export function WaveForm({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "wave") return null;
  const { source } = layer;
  const at = `layer:${layer.id}.source`;
  const moving = AXES.filter((axis: AxisName) => {
    const { on, swing } = layer.axes[axis];
    return on && (swing.state === "keyed" || swing.value > 0);
  });
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="rate"
        at={`${at}.rate_hz`}
        param={source.rate_hz}
        unit={source.beats ? "bpm" : "Hz"}
        times={source.beats ? 60 : 1}
        speed={source.beats ? 1 : 0.02}
        least={0}
        most={source.beats ? 30000 : 500}
        scales
      />
      <SwitchField title="in beats" at={`${at}.beats`} value={source.beats} hint="Read the rate in beats a minute" />
      <ChoiceField title="shape" at={`${at}.shape`} value={source.shape} choices={SHAPES} />
      <span />
      {moving.map((axis) => (
        <ParamField
          key={axis}
          title={`${axis} phase`}
          at={`${at}.phase_deg.${axis}`}
          param={source.phase_deg[axis]}
          unit="°"
          speed={1}
          least={-3600}
          most={3600}
          digits={0}
        />
      ))}
    </div>
  );
}
