import type { AxisName, Command } from "../../api/types";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/trying";
import { touched } from "./touched";

const STEP_HZ = 0.02;

/** How fast an axis moves. */
export function AxisRate(props: { layer: string; axis: AxisName; rate: number; locked: boolean }) {
  const { layer, axis, rate, locked } = props;
  const [least, most] = limitsOf("set_axis_rate.rate_hz");
  const set = (value: number): Command => ({ type: "set_axis_rate", layer, axes: touched(axis), rate_hz: value });
  return (
    <NumberField
      label={`Rate of ${axis}`}
      value={rate}
      unit="Hz"
      step={STEP_HZ}
      least={least}
      most={most}
      scales
      disabled={locked || rate === 0}
      className="w-full"
      onPreview={(value) => preview(set(value))}
      onCommit={(value) => commit(set(value))}
      onCancel={cancelPreview}
    />
  );
}
