import type { Layer } from "../../api/types";
import { StackedNumber } from "../../shared/number";
import { usePending } from "../../shared/usePending";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";

const FIELDS = ["pivot behind", "pivot below"];
const HINT =
  "Distance from the lens to the point that pan, tilt and roll of this layer turn about, metres: a shoulder, a wrist";

/** The point that a layer turns the camera about: what it turns, it moves too. */
export function Lever({ layer }: { layer: Layer }) {
  const at = `layer:${layer.id}.lever_m`;
  const lever = usePending(at, layer.lever_m);
  const set = (n: number, value: number) => ({
    type: "set_values" as const,
    values: [{ at, value: lever.map((each, other) => (other === n ? value : each)) }],
  });
  return FIELDS.map((title, n) => (
    <StackedNumber
      key={title}
      title={title}
      hint={HINT}
      value={lever[n] ?? 0}
      unit="m"
      step={0.01}
      digits={2}
      onPreview={(value) => preview(set(n, value))}
      onCommit={(value) => commit(set(n, value))}
      onCancel={cancelPreview}
    />
  ));
}
