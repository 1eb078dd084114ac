import type { Layer } from "../../api/types";
import { AXES, UNITS } from "../../shared/axes";
import { ParamField } from "./ParamField";

const MOST = 1e5;

/** Values of the hand keys at the present frame; a change sets a key there. */
export function HandKeys({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "keys") return null;
  const { tracks } = layer.source;
  return (
    <>
      <p className="col-span-4 text-(--graphite) text-xs">
        Added on top of everything. A change sets a key at the present frame.
      </p>
      {AXES.map((axis) => (
        <ParamField
          key={axis}
          title={`${axis} key`}
          at={`layer:${layer.id}.source.tracks.${axis}`}
          param={tracks[axis]}
          unit={UNITS[axis]}
          speed={0.02}
          keys
          least={-MOST}
          most={MOST}
        />
      ))}
    </>
  );
}
