import type { Layer } from "../../api/types";
import { SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";

const LOOP_HINT = "The first frame follows the last without a jump";

/** Numbers of drift. */
export function DriftForm({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "drift") return null;
  const at = `layer:${layer.id}.source`;
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="rate"
        at={`${at}.rate_hz`}
        param={layer.source.rate_hz}
        unit="Hz"
        speed={0.01}
        least={0}
        most={10}
        scales
      />
      <SwitchField title="loop" at={`${at}.loop`} value={layer.source.loop} hint={LOOP_HINT} />
    </div>
  );
}

/** Numbers of tremor. */
export function TremorForm({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "tremor") return null;
  const at = `layer:${layer.id}.source`;
  const { centre_hz, width_hz, loop } = layer.source;
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="centre"
        at={`${at}.centre_hz`}
        param={centre_hz}
        unit="Hz"
        speed={0.05}
        least={0.1}
        most={60}
        digits={1}
      />
      <ParamField
        title="width ±"
        at={`${at}.width_hz`}
        param={width_hz}
        unit="Hz"
        speed={0.02}
        least={0}
        most={20}
        digits={1}
      />
      <SwitchField title="loop" at={`${at}.loop`} value={loop} hint={LOOP_HINT} />
    </div>
  );
}

/** Numbers of breath. */
export function BreathForm({ layer }: { layer: Layer }) {
  if (layer.source.kind !== "breath") return null;
  const at = `layer:${layer.id}.source`;
  const { rate_hz, exertion, loop } = layer.source;
  return (
    <div className="grid grid-cols-4 gap-3">
      <ParamField
        title="breaths"
        at={`${at}.rate_hz`}
        param={rate_hz}
        unit="/min"
        times={60}
        speed={0.2}
        least={0}
        most={180}
        digits={1}
      />
      <ParamField
        title="exertion"
        at={`${at}.exertion`}
        param={exertion}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={100}
        digits={0}
      />
      <SwitchField title="loop" at={`${at}.loop`} value={loop} hint={LOOP_HINT} />
    </div>
  );
}
