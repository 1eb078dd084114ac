import { type ComponentType, useMemo, useState } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { useLaneSize } from "../../shared/LaneRow";
import { useWanted } from "../../shared/number";
import { clipsOf, findLayer, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";
import { CurvePlot } from "./CurvePlot";
import { FrameTable } from "./FrameTable";
import { type CurveGroup, clipGroups, dialGroups, type GroupProps, layerGroups, moveGroups, ofDials } from "./groups";
import { SheetHead } from "./SheetHead";

/** Groups of numbers of what is selected, and the dials; what it is called. */
function useGroups(): { title: string; groups: CurveGroup[] } {
  const state = useStore(openShot, (each) => each.state);
  const { board, layerId, clipId, mount } = useStore(
    view,
    useShallow(({ board, layer, clip, mount }) => ({ board, layerId: layer, clipId: clip, mount })),
  );
  return useMemo(() => {
    if (!state) return { title: "", groups: [] };
    const dials = dialGroups(state.document.dials);
    const clip = board === "clip" ? clipsOf(state).find(({ id }) => id === clipId) : null;
    const layer = board === "layer" ? findLayer(state, layerId) : null;
    if (clip) return { title: clip.name, groups: [...clipGroups(clip), ...dials] };
    if (layer) return { title: layer.name, groups: [...layerGroups(layer), ...dials] };
    return { title: "Move", groups: [...moveGroups(state.document, mount), ...dials] };
  }, [state, board, layerId, clipId, mount]);
}

/** Curves or table of the move, of the selected layer or clip, or of the dials. */
function Sheet({ Body }: { Body: ComponentType<GroupProps> }) {
  const { width, headPx } = useLaneSize();
  const { title, groups } = useGroups();
  const group = useStore(view, (each) => each.sheetGroup);
  const [hidden, setHidden] = useState<string[]>([]);
  const at = Math.max(
    0,
    groups.findIndex((each) => each.title === group),
  );
  const shown = groups[at];
  useWanted(shown?.tracks.map((track) => track.at) ?? []);
  if (!shown) return null;
  const tracks = shown.tracks.filter((track) => !hidden.includes(track.at));
  const drawn = { tracks, unit: shown.unit, times: shown.times, width };
  const flip = (track: string) =>
    setHidden(hidden.includes(track) ? hidden.filter((each) => each !== track) : [...hidden, track]);
  return (
    <div className="flex min-h-0 flex-1 border-base-300 border-t" data-testid="sheet">
      <SheetHead
        title={ofDials(shown) ? "Dials" : title}
        headPx={headPx}
        groups={groups}
        group={at}
        hidden={hidden}
        onGroup={(index) => view.setState({ sheetGroup: groups[index]?.title ?? null })}
        onFlip={flip}
      />
      <Body key={shown.title + title} {...drawn} />
    </div>
  );
}

export const CurveSheet = () => <Sheet Body={CurvePlot} />;
export const TableSheet = () => <Sheet Body={FrameTable} />;
