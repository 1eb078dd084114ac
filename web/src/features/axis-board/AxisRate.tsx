import { useStore } from "zustand";
import type { AxisName, AxisReading, Layer } from "../../api/types";
import { AXIS_TITLES } from "../../shared/axes";
import { layerField } from "../../shared/fields";
import { ParamControl } from "../../shared/number";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { touched } from "./touched";

const unseen = (fps: number) =>
  `Faster than ${(fps / 2).toFixed(0)} Hz, half the frame rate: frames cannot show it. Lower the rate, or the speed of the layer or clip`;

type AxisRateProps = { layer: Layer; axis: AxisName; reading: AxisReading; locked: boolean };

/** Rate of an axis: its pace, shown in Hz where its source has a rate. Keyed or driven by a formula as any other number. */
export function AxisRate({ layer, axis, reading, locked }: AxisRateProps) {
  useStore(view, ({ axes }) => axes);
  const lead = layer.axes[axis].linked_to ?? axis;
  const at = (of: AxisName) => `layer:${layer.id}.axes.${of}.pace`;
  const places = touched(axis).map((each) => at(layer.axes[each].linked_to ?? each));
  const pace = layerField(`axes.${lead}.pace`);
  const fps = useStore(transport, (each) => each.fps);
  const base = reading.base_hz;
  const look = base > 0 ? { ...pace, unit: "Hz", times: base, least: pace.least * base, most: pace.most * base } : pace;
  return (
    <span
      className={`flex items-center pl-1.5 ${reading.unseen ? "text-error" : ""}`}
      title={reading.unseen ? unseen(fps) : undefined}
    >
      <ParamControl
        at={at(lead)}
        param={layer.axes[lead].pace}
        look={{ ...look, title: `rate of ${AXIS_TITLES[axis]}` }}
        label={`Rate of ${AXIS_TITLES[axis]}`}
        keyTitle={`rate of ${AXIS_TITLES[axis]}`}
        places={[...new Set(places)]}
        disabled={locked}
        className="w-full"
      />
    </span>
  );
}
