import { memo } from "react";
import type { AxisName, AxisReading, Layer } from "../../api/types";
import { AXIS_TITLES, onlyAxes } from "../../shared/axes";
import { usePainting } from "../../shared/usePainting";
import { usePending } from "../../shared/usePending";
import { commit } from "../../stores/editing";
import { AxisLabel } from "./AxisLabel";
import { AxisRate } from "./AxisRate";
import { AxisSwing } from "./AxisSwing";
import { AxisSwitches } from "./AxisSwitches";
import { MiniWave } from "./MiniWave";
import { touched } from "./touched";

type RowProps = { layer: Layer; axis: AxisName; reading: AxisReading; selected: boolean };

const quietText = "num whitespace-nowrap text-right text-(--graphite) text-xs";

/** One axis: its ink, motion, swing, size on screen, rate, switches. Click the name to select; Ctrl adds rows, Shift all up to it. */
export const AxisRow = memo(function AxisRow({ layer, axis, reading, selected }: RowProps) {
  const setting = layer.axes[axis];
  const at = `layer:${layer.id}.axes.${axis}`;
  const on = usePending(`${at}.on`, setting.on);
  const locked = usePending(`${at}.locked`, setting.locked);
  const quiet = !reading.moves;
  const set = (field: "on" | "locked", value: boolean) =>
    void commit({
      type: "set_values",
      values: touched(axis).map((each) => ({ at: `layer:${layer.id}.axes.${each}.${field}`, value })),
    });
  const painted = usePainting(`${at}.on`, on, (event) => {
    if ((event.nativeEvent as MouseEvent).altKey) void commit(onlyAxes(layer, [axis]));
    else set("on", !on);
  });
  return (
    <tr data-axis={axis} className={`h-6 border-base-300/70 border-b ${selected ? "bg-(--wash)" : ""}`}>
      <td>
        <span className="flex items-center gap-1">
          <input
            type="checkbox"
            aria-label={`${AXIS_TITLES[axis]} on`}
            title={`Switch this axis ${on ? "off" : "on"}; drag across others to switch them too; Alt-click: only this one`}
            className="tick"
            checked={painted.shown}
            readOnly
            {...painted.bind}
          />
          <AxisLabel axis={axis} quiet={quiet} selected={selected} linked={setting.linked_to ?? null} />
        </span>
      </td>
      <td className={quiet ? "opacity-30" : ""}>
        <MiniWave layer={layer.id} axis={axis} />
      </td>
      <td className="text-right">
        <AxisSwing layer={layer} axis={axis} reading={reading} locked={locked} />
      </td>
      <td className={quietText}>{quiet ? "" : `${reading.swing_px.toFixed(reading.swing_px < 10 ? 1 : 0)} px`}</td>
      <td className={quietText} title="Share of the picture width, at this lens and distance">
        {quiet ? "" : `${(reading.swing_share * 100).toFixed(reading.swing_share < 0.0995 ? 2 : 1)} %`}
      </td>
      <td className="text-right">
        <AxisRate layer={layer} axis={axis} reading={reading} locked={locked} />
      </td>
      <td>
        <AxisSwitches layer={layer.id} axis={axis} locked={locked} onLock={() => set("locked", !locked)} />
      </td>
    </tr>
  );
});
