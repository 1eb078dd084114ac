import { useStore } from "zustand";
import type { Shot } from "../../api/types";
import { NumberField } from "../../shared/NumberField";
import { cancelPreview, commit } from "../../stores/session";
import { view } from "../../stores/view";
import { FIELDS, workMount } from "./commands";
import { EXTENDS, extend, INTERPS, pinnedKeys, runOn, stretch } from "./doings";

/** Keys: how they run on, stretch, delete; for the selected pins, or for all when none is selected. */
export function PinBar({ document }: { document: Shot }) {
  useStore(view, (state) => state.pins);
  const { keys, chosen, frames } = pinnedKeys(document);
  if (frames.length === 0)
    return (
      <p className="cond text-(--graphite) text-xs">
        No keys: the camera stands still. A shot needs none to be shaken.
      </p>
    );
  const about = chosen[0] ?? frames[0] ?? 1;
  const curve = FIELDS.map((field) => workMount(document)?.[field]).find((param) => param?.state === "keyed");
  const ends = curve?.state === "keyed" ? curve.curve : null;
  return (
    <section className="flex flex-col gap-1" aria-label="Keys of the move">
      <span className="cond text-(--graphite) text-xs">
        {chosen.length ? `${chosen.length} of ${frames.length} pins selected` : `all ${frames.length} pins`}
      </span>
      <div className="flex flex-wrap items-center gap-1">
        {INTERPS.map((interp) => (
          <button
            key={interp}
            type="button"
            className="btn btn-xs"
            title={interp === "linear" ? "Constant speed between keys" : `Run on ${interp}`}
            onClick={() => runOn(interp)}
          >
            {interp}
          </button>
        ))}
        <span
          className="cond flex items-center gap-1 text-(--graphite) text-xs"
          title={`How long they take, about frame ${about}`}
        >
          time
          <NumberField
            label="Stretch of the keys"
            value={100}
            unit="%"
            speed={1}
            least={1}
            most={10000}
            digits={0}
            scales
            className="border border-base-300 text-base-content"
            onPreview={(percent) => stretch(percent / 100, true)}
            onCommit={(percent) => stretch(percent / 100)}
            onCancel={cancelPreview}
          />
        </span>
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
      <div className="cond flex items-center gap-3 text-xs">
        {(["before", "after"] as const).map((side) => (
          <label key={side} className="flex items-center gap-1">
            {side === "before" ? "before the first" : "after the last"}
            <select
              className="border-base-300 border-b bg-base-100"
              value={ends?.[side] ?? "hold"}
              onChange={(event) => extend(side, event.target.value as (typeof EXTENDS)[number])}
            >
              {EXTENDS.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </section>
  );
}
