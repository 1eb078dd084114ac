import { useState } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { useWanted } from "../../shared/number";
import { findLayer, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { CurvePlot } from "./CurvePlot";
import { FrameTable } from "./FrameTable";
import { layerGroups, moveGroups } from "./groups";
import { SheetHead } from "./SheetHead";

/** Curves or table of the move, or of the selected layer. */
export function Sheet({ width, headPx }: { width: number; headPx: number }) {
  const state = useStore(openShot, (each) => each.state);
  const { sheet, board, layerId, mount } = useStore(
    view,
    useShallow(({ sheet, board, layer, mount }) => ({ sheet, board, layerId: layer, mount })),
  );
  const [group, setGroup] = useState(0);
  const [hidden, setHidden] = useState<string[]>([]);
  const layer = board === "move" ? null : findLayer(state, layerId);
  const groups = !state ? [] : layer ? layerGroups(layer) : moveGroups(state.document, mount);
  const at = Math.min(group, groups.length - 1);
  const shown = groups[at];
  useWanted(shown?.tracks.map((track) => track.at) ?? []);
  if (!shown || !sheet || sheet === "presets") return null;
  const tracks = shown.tracks.filter((track) => !hidden.includes(track.at));
  const drawn = { tracks, unit: shown.unit, times: shown.times, width };
  const title = layer?.name ?? "Move";
  const flip = (track: string) =>
    setHidden(hidden.includes(track) ? hidden.filter((each) => each !== track) : [...hidden, track]);
  return (
    <div className="flex min-h-0 flex-1 border-base-300 border-t" data-testid="sheet">
      <SheetHead
        title={title}
        headPx={headPx}
        groups={groups}
        group={at}
        hidden={hidden}
        onGroup={setGroup}
        onFlip={flip}
      />
      {sheet === "curves" ? <CurvePlot key={shown.title + title} {...drawn} /> : <FrameTable {...drawn} />}
    </div>
  );
}
