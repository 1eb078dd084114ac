import { ChevronRight } from "lucide-react";
import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { ChoiceField, SwitchField } from "../../parts/ChoiceField";
import { layerField } from "../../shared/fields";
import { openShot } from "../../stores/openShot";
import { setMore, view } from "../../stores/view";
import { Lever } from "./Lever";
import { Spectrum } from "./Spectrum";

const LENS_END = "lens";

/** Rarely used settings, and the spectrum, in a folded section. */
export function MoreForm({ layer }: { layer: Layer }) {
  const state = useStore(openShot, (each) => each.state);
  const more = useStore(view, (each) => each.more);
  if (!state) return null;
  const at = `layer:${layer.id}`;
  const mounts = state.document.mounts.map(({ id }) => id);
  const names = Object.fromEntries(state.document.mounts.map(({ id, name }) => [id, name]));
  return (
    <section aria-label="More of the layer">
      <button
        type="button"
        aria-expanded={more}
        className="cond flex w-full items-center gap-1 text-(--graphite) text-xs hover:text-base-content"
        onClick={() => setMore(!more)}
      >
        <ChevronRight size={12} className={more ? "rotate-90" : ""} />
        Blending, ramp shape, pivot, spectrum
      </button>
      {more && (
        <div className="grid grid-cols-4 gap-x-3 gap-y-2 pt-1">
          <ChoiceField at={`${at}.mode`} look={layerField("mode")} value={layer.mode} />
          <SwitchField at={`${at}.steady`} look={layerField("steady")} value={layer.steady} />
          <ChoiceField at={`${at}.ramp_shape`} look={layerField("ramp_shape")} value={layer.ramp_shape} />
          {mounts.length > 1 && (
            <ChoiceField
              at={`${at}.target`}
              look={{ title: "applies to", choices: [LENS_END, ...mounts] }}
              value={layer.target ?? LENS_END}
              titles={names}
              none={LENS_END}
            />
          )}
          <Lever layer={layer} />
          <div className="col-span-4">
            <Spectrum layer={layer} slug={state.slug} revision={state.revision} />
          </div>
        </div>
      )}
    </section>
  );
}
