import { X } from "lucide-react";
import { useState } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { useWanted } from "../../shared/useWanted";
import { findLayer, session } from "../../stores/session";
import { view } from "../../stores/view";
import { CurvePlot } from "./CurvePlot";
import { FrameTable } from "./FrameTable";
import { layerGroups, moveGroups } from "./groups";

/** Curves or table of the move, or of the selected layer. */
export function Sheet({ width, headPx }: { width: number; headPx: number }) {
  const state = useStore(session, (each) => each.state);
  const {
    sheet,
    board,
    layer: layerId,
    mount,
  } = useStore(
    view,
    useShallow(({ sheet, board, layer, mount }) => ({ sheet, board, layer, mount })),
  );
  const [group, setGroup] = useState(0);
  const [hidden, setHidden] = useState<string[]>([]);
  const layer = findLayer(state, layerId);
  const groups = state ? (board === "move" || !layer ? moveGroups(state.document, mount) : layerGroups(layer)) : [];
  const shown = groups[Math.min(group, groups.length - 1)];
  useWanted(shown?.tracks.map((track) => track.at) ?? []);
  if (!state || !shown || !sheet) return null;
  const tracks = shown.tracks.filter((track) => !hidden.includes(track.at));
  const drawn = { tracks, unit: shown.unit, times: shown.times ?? 1, width };
  const title = board === "move" || !layer ? "Move" : layer.name;
  return (
    <div className="flex min-h-0 flex-1 border-base-300 border-t" data-testid="sheet">
      <div
        className="flex shrink-0 flex-col gap-1 overflow-y-auto border-base-300 border-r px-3 py-1.5"
        style={{ width: headPx }}
      >
        <div className="flex items-center">
          <span className="cond truncate font-semibold text-[13px]" title={title}>
            {title}
          </span>
          <button
            type="button"
            className="btn btn-ghost btn-xs btn-square ml-auto"
            aria-label="Back to the lanes"
            title="Back to the lanes (Escape)"
            onClick={() => view.setState({ sheet: null })}
          >
            <X size={13} />
          </button>
        </div>
        <select
          className="cond border-base-300 border-b bg-base-100 text-xs"
          aria-label="Numbers shown"
          value={Math.min(group, groups.length - 1)}
          onChange={(event) => setGroup(Number(event.target.value))}
        >
          {groups.map((each, index) => (
            <option key={each.title} value={index}>
              {each.title}
            </option>
          ))}
        </select>
        {shown.tracks.map((track) => (
          <label key={track.at} className="cond flex cursor-pointer items-center gap-1.5 text-[13px]">
            <input
              type="checkbox"
              className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
              checked={!hidden.includes(track.at)}
              onChange={() =>
                setHidden(
                  hidden.includes(track.at) ? hidden.filter((each) => each !== track.at) : [...hidden, track.at],
                )
              }
            />
            <span className="h-0.5 w-3" style={{ background: `var(--ink-${track.ink})` }} />
            {track.title}
          </label>
        ))}
      </div>
      {sheet === "curves" ? <CurvePlot key={shown.title + title} {...drawn} /> : <FrameTable {...drawn} />}
    </div>
  );
}
