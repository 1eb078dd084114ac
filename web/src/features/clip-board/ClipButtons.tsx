import { Copy, Scissors, Trash2 } from "lucide-react";
import { addClip, duplicateClip, removeClip, saveClip, splitClip } from "../../acts/clips";
import type { Clip } from "../../api/types";
import { Menu } from "../../shared/Menu";
import { commit } from "../../stores/editing";
import { selectMadeClip } from "../../stores/selection";
import { view } from "../../stores/view";

const TIMES_REPEATED = 3;

/** Actions on the selected clip. */
export function ClipButtons({ clip, others }: { clip: Clip; others: Clip[] }) {
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
      {others.length > 0 && (
        <Menu
          label="Blend with another clip"
          button="Blend with …"
          buttonClass="btn btn-xs"
          listClass="w-56 bg-base-100 text-[13px]"
          items={others.map(({ id, name }) => ({
            id,
            content: <span className="truncate">{name}</span>,
            run: () =>
              void commit({ type: "blend_clips", clips: [clip.id, id], method: "mix" }, { kept: selectMadeClip }),
          }))}
        />
      )}
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
