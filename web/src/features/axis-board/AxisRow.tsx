import { Dices, Lock, LockOpen } from "lucide-react";
import type { AxisName, AxisReading, Command, Layer } from "../../api/types";
import { UNITS } from "../../shared/axes";
import { KeyDot } from "../../shared/KeyDot";
import { NumberField } from "../../shared/NumberField";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { usePending } from "../../shared/usePending";
import { cancelPreview, commit, preview } from "../../stores/session";
import { view } from "../../stores/view";
import { AxisLabel } from "./AxisLabel";
import { MiniWave } from "./MiniWave";

const MOST: Record<AxisName, number> = {
  pan: 180,
  tilt: 90,
  roll: 180,
  truck: 10000,
  pedestal: 10000,
  dolly: 10000,
  zoom: 90,
};

type RowProps = { layer: Layer; axis: AxisName; reading: AxisReading; selected: boolean };

/** The axes an edit of this row goes to: all selected ones when the row is among them. */
function touched(axis: AxisName): AxisName[] {
  const { axes } = view.getState();
  return axes.includes(axis) ? axes : [axis];
}

/** One axis: its ink, motion, swing, size in the picture, rate, switches. Click the name to select; Shift or Ctrl adds rows. */
export function AxisRow({ layer, axis, reading, selected }: RowProps) {
  const setting = layer.axes[axis];
  const at = `layer:${layer.id}.axes.${axis}`;
  const frame = usePausedFrame();
  const on = usePending(`${at}.on`, setting.on);
  const locked = usePending(`${at}.locked`, setting.locked);
  const quiet = !reading.moves;
  const swing = (value: number): Command => ({
    type: "set_numbers",
    frame,
    values: touched(axis).map((each) => ({
      at: `layer:${layer.id}.axes.${each}.swing`,
      value: Math.min(value, MOST[each]),
    })),
    key: false,
  });
  const rate = (value: number): Command => ({
    type: "set_axis_rate",
    layer: layer.id,
    axes: touched(axis),
    rate_hz: value,
  });
  const set = (field: "on" | "locked", value: boolean) =>
    void commit({
      type: "set_values",
      values: touched(axis).map((each) => ({ at: `layer:${layer.id}.axes.${each}.${field}`, value })),
    });
  return (
    <tr data-axis={axis} className={`h-[25px] border-base-300/70 border-b ${selected ? "bg-(--wash)" : ""}`}>
      <td>
        <span className="flex items-center gap-1">
          <input
            type="checkbox"
            aria-label={`${axis} on`}
            title={on ? "Switch this axis off" : "Switch this axis on"}
            className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
            checked={on}
            onChange={(event) => set("on", event.target.checked)}
          />
          <AxisLabel axis={axis} quiet={quiet} selected={selected} linked={setting.linked_to ?? null} />
        </span>
      </td>
      <td className={quiet ? "opacity-30" : ""}>
        <MiniWave layer={layer.id} axis={axis} />
      </td>
      <td className="text-right">
        <span className="flex items-center pl-1.5">
          <KeyDot
            at={touched(axis).map((each) => `layer:${layer.id}.axes.${each}.swing`)}
            own={`layer:${layer.id}.axes.${axis}.swing`}
            param={setting.swing}
            frame={frame}
            title={`swing of ${axis}`}
            disabled={locked}
          />
          <NumberField
            label={`Swing of ${axis}`}
            value={reading.swing}
            unit={UNITS[axis]}
            speed={axis === "truck" || axis === "pedestal" || axis === "dolly" ? 0.05 : 0.02}
            least={0}
            most={MOST[axis]}
            scales
            disabled={locked}
            className="w-full font-medium"
            onPreview={(value) => preview(swing(value))}
            onCommit={(value) => commit(swing(value))}
            onCancel={cancelPreview}
          />
        </span>
      </td>
      <td className="num whitespace-nowrap text-right text-(--graphite) text-xs">
        {reading.swing_px.toFixed(reading.swing_px < 10 ? 1 : 0)} px
      </td>
      <td
        className="num whitespace-nowrap text-right text-(--graphite) text-xs"
        title="Of the picture's width, at this lens and this distance of the subject"
      >
        {(reading.swing_share * 100).toFixed(reading.swing_share < 0.0995 ? 2 : 1)} %
      </td>
      <td className="text-right">
        <NumberField
          label={`Rate of ${axis}`}
          value={reading.rate_hz}
          unit="Hz"
          speed={0.02}
          least={0.01}
          most={500}
          scales
          disabled={locked || reading.rate_hz === 0}
          className="w-full"
          onPreview={(value) => preview(rate(value))}
          onCommit={(value) => commit(rate(value))}
          onCancel={cancelPreview}
        />
      </td>
      <td>
        <span className="flex justify-end">
          <button
            type="button"
            className="btn btn-ghost btn-xs h-5 min-h-0 w-5 p-0"
            disabled={locked}
            aria-label={`New random start of ${axis}`}
            title={`New random start of ${axis}`}
            onClick={() => void commit({ type: "new_seeds", layers: [layer.id], axes: touched(axis) })}
          >
            <Dices size={12} />
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs h-5 min-h-0 w-5 p-0"
            aria-pressed={locked}
            aria-label={`Lock ${axis}`}
            title={locked ? `Unlock ${axis}` : `Lock ${axis}`}
            onClick={() => set("locked", !locked)}
          >
            {locked ? <Lock size={12} /> : <LockOpen size={12} className="opacity-50" />}
          </button>
        </span>
      </td>
    </tr>
  );
}
