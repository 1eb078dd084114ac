import { useStore } from "zustand";
import type { Clip, Lane } from "../../api/types";
import { LaneRow, useLaneSize } from "../../shared/LaneRow";
import { view } from "../../stores/view";
import { ClipStrip } from "./ClipStrip";
import { type Chosen, LayerHead } from "./LayerHead";
import { LayerLane } from "./LayerLane";
import { laneHeight, rowHeight } from "./rowHeight";

type LaneGroupProps = { lane: Lane; selected: string | null; compact: boolean };

/** A lane: its clips as bars, and under them the layers of the one that is open, the topmost first. */
export function LaneGroup({ lane, selected, compact }: LaneGroupProps) {
  const { width } = useLaneSize();
  const isOpened = useStore(view, (each) => each.open[lane.id]);
  // The clip on the board, or the one whose layer is, shows its layers, whatever was open before.
  const onBoardId = useStore(view, ({ board, clip, layer }) =>
    board === "clip"
      ? clip
      : board === "layer"
        ? lane.clips.find((each) => each.layers.some(({ id }) => id === layer))?.id
        : null,
  );
  const shown = [onBoardId, isOpened].find((each) => lane.clips.some(({ id }) => id === each));
  const open = lane.clips.find(({ id }) => id === shown) ?? lane.clips.at(-1);
  const barred = hasBars(lane);
  const onBoard = useStore(view, ({ board, clip }) => board === "clip" && lane.clips.some(({ id }) => id === clip));
  const height = laneHeight(compact && !onBoard, barred);
  return (
    <section aria-label={`Lane ${lane.name}`} data-lane={lane.id}>
      <LaneRow
        height={height}
        headClass="cond truncate px-3 text-(--graphite) text-xs leading-[20px]"
        head={<span title={`${lane.name}: clips that overlap cross-fade (${lane.fade})`}>{lane.name}</span>}
      >
        <ClipStrip lane={lane} open={open} width={width} height={height} waves={barred} />
      </LaneRow>
      {open && <ClipLayers clip={open} selected={selected} compact={compact} />}
    </section>
  );
}

/** A clip over the whole shot that is alone on its lane is shown by its layers. */
function hasBars({ clips }: Lane): boolean {
  return clips.length > 1 || clips.some(({ span_frames }) => span_frames !== null);
}

type ClipLayersProps = { clip: Clip; selected: string | null; compact: boolean };

function ClipLayers({ clip, selected, compact }: ClipLayersProps) {
  const { width } = useLaneSize();
  const layers = useStore(view, (each) => each.layers);
  const chosen = (id: string): Chosen =>
    selected === null ? "no" : id === selected ? "board" : layers.includes(id) ? "too" : "no";
  return [...clip.layers].reverse().map((layer) => (
    <LaneRow
      key={layer.id}
      height={rowHeight(compact, chosen(layer.id) === "board")}
      data-layer={layer.id}
      head={<LayerHead clip={clip} layer={layer} chosen={chosen(layer.id)} compact={compact} />}
    >
      <LayerLane layer={layer} width={width} chosen={chosen(layer.id)} compact={compact} />
    </LaneRow>
  ));
}
