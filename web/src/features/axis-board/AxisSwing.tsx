import type { AxisName, AxisReading, Command, Layer } from "../../api/types";
import { AXIS_TITLES } from "../../shared/axes";
import { layerField } from "../../shared/fields";
import { ParamControl } from "../../shared/number";
import { transport } from "../../stores/transport";
import { touched } from "./touched";

type AxisSwingProps = { layer: Layer; axis: AxisName; reading: AxisReading; locked: boolean };

/** Swing of an axis; for a source with its own size, the measured maximum. */
export function AxisSwing({ layer, axis, reading, locked }: AxisSwingProps) {
  const at = `layer:${layer.id}.axes.${axis}`;
  const swing = (value: number): Command => ({
    type: "set_swings",
    layer: layer.id,
    frame: transport.getState().frame,
    axes: touched(axis),
    value,
  });
  if (reading.measured)
    return (
      <span
        className="num block px-1 text-right text-(--graphite) text-xs"
        title={`Measured maximum of ${AXIS_TITLES[axis]}; this source sets its own size`}
      >
        {reading.moves ? `±${reading.swing.toFixed(2)}` : ""}
      </span>
    );
  return (
    <span className="flex items-center pl-1.5">
      <ParamControl
        at={`${at}.swing`}
        param={layer.axes[axis].swing}
        look={layerField(`axes.${axis}.swing`)}
        label={`Swing of ${AXIS_TITLES[axis]}`}
        keyTitle={`swing of ${AXIS_TITLES[axis]}`}
        value={reading.swing}
        places={touched(axis).map((each) => `layer:${layer.id}.axes.${each}.swing`)}
        command={swing}
        disabled={locked}
        className="w-full font-medium"
      />
    </span>
  );
}
