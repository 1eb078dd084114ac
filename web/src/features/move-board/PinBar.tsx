import { useStore } from "zustand";
import type { Command, Shot } from "../../api/types";
import { commit } from "../../stores/session";
import { selectPins, view } from "../../stores/view";
import { moveFrames } from "../lanes";
import { addressOf, FIELDS, keysAt, workMount } from "./commands";

const INTERPS = ["smooth", "linear", "hold"] as const;
const EXTENDS = ["hold", "continue", "repeat"] as const;

/** Keys: how they run on, stretch, delete; for the selected pins, or for all when none is selected. */
export function PinBar({ document }: { document: Shot }) {
  const pins = useStore(view, (state) => state.pins);
  const frames = moveFrames(document);
  const chosen = pins.filter((frame) => frames.includes(frame));
  const keys = keysAt(document, chosen.length ? chosen : null);
  if (frames.length === 0)
    return (
      <p className="cond text-(--graphite) text-xs">
        No keys: the camera stands still. A shot needs none to be shaken.
      </p>
    );
  const run = (command: Command) => void commit(command);
  const about = chosen[0] ?? frames[0] ?? 1;
  const stretch = (factor: number) => {
    run({ type: "scale_keys", keys, about_frame: about, factor });
    selectPins([]);
  };
  const moved = FIELDS.map((field) => addressOf(document, field));
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
            onClick={() => run({ type: "set_interp", keys, interp })}
          >
            {interp}
          </button>
        ))}
        <button
          type="button"
          className="btn btn-xs"
          title={`Half as long, about frame ${about}`}
          onClick={() => stretch(0.5)}
        >
          ×½
        </button>
        <button
          type="button"
          className="btn btn-xs"
          title={`Twice as long, about frame ${about}`}
          onClick={() => stretch(2)}
        >
          ×2
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={chosen.length === 0}
          title="Delete the selected keys (Delete)"
          onClick={() => run({ type: "delete_keys", keys })}
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
              onChange={(event) =>
                run({ type: "set_extend", at: moved, before: null, after: null, [side]: event.target.value } as Command)
              }
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
