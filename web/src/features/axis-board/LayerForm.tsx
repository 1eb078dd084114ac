import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { idsAlike } from "../../stores/selection";
import { commit, session } from "../../stores/session";
import { ChoiceField, SwitchField } from "./ChoiceField";
import { ParamField } from "./ParamField";
import { PlainField } from "./PlainField";

/** Numbers that every layer has: how much, how fast, when, and how it goes with the others. */
export function LayerForm({ layer }: { layer: Layer }) {
  const document = useStore(session, (state) => state.state?.document);
  if (!document) return null;
  const at = `layer:${layer.id}`;
  const [first, last] = layer.span_frames ?? [document.first_frame, document.last_frame];
  const longest = last - first;
  const alike = idsAlike(layer.id).map((id) => `layer:${id}`);
  const mounts = document.mounts.map((mount) => mount.id);
  return (
    <div className="grid grid-cols-4 gap-x-3 gap-y-2">
      <ParamField
        title="weight"
        at={`${at}.weight`}
        param={layer.weight}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={1000}
        digits={0}
      />
      <ParamField
        title="speed"
        at={`${at}.speed`}
        param={layer.speed}
        unit="%"
        times={100}
        speed={0.5}
        least={0}
        most={10000}
        digits={0}
      />
      <ChoiceField title="with those under it" at={`${at}.mode`} value={layer.mode} choices={["add", "replace"]} />
      <SwitchField
        title="steady on screen"
        at={`${at}.steady`}
        value={layer.steady}
        hint="Keeps its size in the picture while the lens zooms"
      />
      <PlainField
        title="from frame"
        at={`${at}.span_frames`}
        value={first}
        unit="f"
        least={-1e6}
        most={last}
        onValue={(shown) => commit({ type: "set_span", at: alike, first_frame: shown, by_frames: 0, whole: false })}
      />
      <PlainField
        title="to frame"
        at={`${at}.span_frames`}
        value={last}
        unit="f"
        least={first}
        most={1e7}
        onValue={(shown) => commit({ type: "set_span", at: alike, last_frame: shown, by_frames: 0, whole: false })}
      />
      <PlainField
        title="ramp in"
        at={`${at}.ramp_in_frames`}
        value={layer.ramp_in_frames}
        unit="f"
        least={0}
        most={longest - layer.ramp_out_frames}
      />
      <PlainField
        title="ramp out"
        at={`${at}.ramp_out_frames`}
        value={layer.ramp_out_frames}
        unit="f"
        least={0}
        most={longest - layer.ramp_in_frames}
      />
      <ChoiceField
        title="ramp shape"
        at={`${at}.ramp_shape`}
        value={layer.ramp_shape}
        choices={["linear", "smooth", "equal-power"]}
      />
      {mounts.length > 1 && (
        <ChoiceField
          title="shakes"
          at={`${at}.target`}
          value={layer.target ?? "lens end"}
          choices={["lens end", ...mounts]}
          none="lens end"
        />
      )}
    </div>
  );
}
