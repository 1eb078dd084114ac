import { useStore } from "zustand";
import { FIELDS } from "../../acts/moving";
import { extend, pinnedKeys, runOn, stretch, tryStretch } from "../../acts/pins";
import { curveOf } from "../../api/param";
import type { Curve, Shot } from "../../api/types";
import { limitsOf } from "../../shared/fields";
import { ShareField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { workMount } from "../../stores/rig";
import { serverTables } from "../../stores/serverTables";
import { view } from "../../stores/view";

const SIDES = { before: "before the first", after: "after the last" } as const;

/** Keys: how they run on, stretch, delete; for the selected pins, or for all when none is selected. */
export function PinBar({ document }: { document: Shot }) {
  useStore(view, (state) => state.pins);
  const pinsOf = useStore(view, (state) => state.pinsOf);
  const mountName = document.mounts.length > 1 && document.mounts.find(({ id }) => id === pinsOf)?.name;
  const { keys, chosen, frames } = pinnedKeys(document);
  if (frames.length === 0)
    return <p className="cond text-(--graphite) text-xs">No keys: the camera is static. Layers work without any.</p>;
  return (
    <section className="flex flex-col gap-1" aria-label="Keys of the move">
      <span className="cond text-(--graphite) text-xs">
        {chosen.length
          ? `${chosen.length} of ${frames.length} keyed frames selected`
          : `all ${frames.length} keyed frames${mountName ? ` of ${mountName}` : ""}`}
      </span>
      <div className="flex flex-wrap items-center gap-1">
        {serverTables().forms.interps.map((interp) => (
          <button
            key={interp}
            type="button"
            className="btn btn-xs"
            title={interp === "linear" ? "Interpolate: linear (constant speed)" : `Interpolate: ${interp}`}
            onClick={() => runOn(interp)}
          >
            {interp}
          </button>
        ))}
        <Stretch about={chosen[0] ?? frames[0] ?? 1} />
        <button
          type="button"
          className="btn btn-xs"
          disabled={chosen.length === 0}
          title="Delete the selected keys (Delete)"
          onClick={() => void commit({ type: "delete_keys", keys })}
        >
          Delete
        </button>
      </div>
      <Ends document={document} />
    </section>
  );
}

/** Duration of the keys. */
function Stretch({ about }: { about: number }) {
  return (
    <span
      className="cond flex items-center gap-1 text-(--graphite) text-xs"
      title={`Time stretch about frame ${about}`}
    >
      time
      <ShareField
        label="Stretch of the keys"
        value={1}
        limits={limitsOf("scale_keys.factor")}
        step={1}
        scales
        className="text-base-content"
        onPreview={tryStretch}
        onCommit={stretch}
      />
    </span>
  );
}

/** Extension of the move before its first key and after its last. */
function Ends({ document }: { document: Shot }) {
  const mount = workMount(document);
  const curve = FIELDS.map((field) => mount && curveOf(mount[field])).find((each) => each);
  return (
    <div className="cond flex items-center gap-3 text-xs">
      {(["before", "after"] as const).map((side) => (
        <label key={side} className="flex items-center gap-1">
          {SIDES[side]}
          <select
            className="border-base-300 border-b bg-base-100"
            value={curve?.[side] ?? "hold"}
            onChange={(event) => extend(side, event.target.value as Curve["after"])}
          >
            {serverTables().forms.extends.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}
