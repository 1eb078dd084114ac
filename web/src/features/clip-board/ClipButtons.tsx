import { Copy, Scissors, Trash2 } from "lucide-react";
import { addClip, duplicateClip, removeClip, saveClip, splitClip } from "../../acts/clips";
import { view } from "../../stores/view";

const TIMES_REPEATED = 3;

/** What is done with the selected clip. */
export function ClipButtons() {
  return (
    <div className="cond flex flex-wrap items-center gap-1 text-xs">
      <button
        type="button"
        className="btn btn-xs"
        title="Split at playhead; the motion stays continuous (X)"
        onClick={splitClip}
      >
        <Scissors size={12} /> Split here
      </button>
      <button type="button" className="btn btn-xs" title="Duplicate after this clip" onClick={() => duplicateClip(1)}>
        <Copy size={12} /> Duplicate
      </button>
      <button
        type="button"
        className="btn btn-xs"
        title="Three more copies after it"
        onClick={() => duplicateClip(TIMES_REPEATED)}
      >
        Repeat 3×
      </button>
      <button
        type="button"
        className="btn btn-xs"
        title="New clip on a new lane: over the loop range, or from the playhead on"
        onClick={addClip}
      >
        New clip
      </button>
      <button
        type="button"
        className="btn btn-xs"
        title="Browse presets to replace it (R)"
        onClick={() => view.setState({ sheet: "presets" })}
      >
        Presets …
      </button>
      <button type="button" className="btn btn-xs" title="Save to your presets (J)" onClick={saveClip}>
        Save as preset …
      </button>
      <span className="ml-auto" />
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        title="Remove the clip with its layers (Delete)"
        aria-label="Remove this clip"
        onClick={removeClip}
      >
        <Trash2 size={13} />
      </button>
    </div>
  );
}
