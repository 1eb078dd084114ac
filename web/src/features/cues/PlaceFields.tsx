import { useStore } from "zustand";
import { setCues } from "../../acts/cues";
import type { Cue } from "../../api/types";
import { NumberField } from "../../shared/number";
import { view } from "../../stores/view";

const COORDINATES = ["x", "height", "z"] as const;

/** Where in the set a cue is: nowhere, typed, or picked in either view. */
export function PlaceFields({ cue }: { cue: Cue }) {
  const picking = useStore(view, (each) => each.picking === "cue");
  const place = cue.place_m ?? null;
  return (
    <div className="flex items-center gap-2 text-xs">
      <span className="cond text-(--graphite)">place</span>
      {place ? (
        COORDINATES.map((title, n) => (
          <span key={title} className="flex items-center gap-0.5">
            {title}
            <NumberField
              label={`Place of the cue, ${title}`}
              value={place[n] ?? 0}
              unit="m"
              step={0.01}
              digits={2}
              className="border-base-300 border-b"
              onCommit={(value) =>
                setCues({ place_m: place.map((each, at) => (at === n ? value : each)) as [number, number, number] })
              }
            />
          </span>
        ))
      ) : (
        <span>No position: axes respond independently</span>
      )}
      <button
        type="button"
        className={`btn btn-xs ml-auto ${picking ? "btn-primary" : ""}`}
        aria-pressed={picking}
        title="Then click a point of the set, in either view"
        onClick={() => view.setState({ picking: picking ? false : "cue" })}
      >
        pick
      </button>
      {place && (
        <button
          type="button"
          className="btn btn-xs"
          title="The cue has no place"
          onClick={() => void setCues({ nowhere: true })}
        >
          nowhere
        </button>
      )}
    </div>
  );
}
