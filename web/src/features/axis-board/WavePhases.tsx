import type { Layer } from "../../api/types";
import { AXES } from "../../shared/axes";
import { ParamField } from "./ParamField";

/** The phase of a wave on each axis that moves. */
export function WavePhases({ layer }: { layer: Layer }) {
  const { source, axes } = layer;
  if (source.kind !== "wave") return null;
  const moving = AXES.filter((axis) => {
    const { on, swing } = axes[axis];
    return on && (swing.state === "keyed" || swing.value > 0);
  });
  return (
    <>
      <span />
      {moving.map((axis) => (
        <ParamField
          key={axis}
          title={`${axis} phase`}
          at={`layer:${layer.id}.source.phase_deg.${axis}`}
          param={source.phase_deg[axis]}
          unit="°"
          speed={1}
          least={-3600}
          most={3600}
          digits={0}
        />
      ))}
    </>
  );
}
