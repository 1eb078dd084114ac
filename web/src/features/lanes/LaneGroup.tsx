import { useStore } from "zustand";
import type { Clip, Lane } from "../../api/types";
import { view } from "../../stores/view";
import { ClipStrip } from "./ClipStrip";
import { type Chosen, LayerHead } from "./LayerHead";
import { LayerLane } from "./LayerLane";
import { laneHeight } from "./rowHeight";

type LaneGroupProps = { lane: Lane; width: number; headPx: number; selected: string | null; compact: boolean };

/** A lane: its clips as bars, and under them the layers of the one that is open, the topmost first. */
export function LaneGroup({ lane, width, headPx, selected, compact }: LaneGroupProps) {
  const wanted = useStore(view, (each) => each.open[lane.id]);
  const open = lane.clips.find(({ id }) => id === wanted) ?? lane.clips.at(-1);
  const barred = hasBars(lane);
  const onBoard = useStore(view, ({ board, clip }) => board === "clip" && lane.clips.some(({ id }) => id === clip));
  const height = laneHeight(compact && !onBoard, barred);
  return (
    <section aria-label={`Lane ${lane.name}`} data-lane={lane.id}>
      <div className="flex" style={{ height }}>
        <div
          className="cond shrink-0 truncate border-base-300 border-r px-3 text-(--graphite) text-xs leading-[20px]"
          style={{ width: headPx }}
          title={`${lane.name}: clips that overlap cross-fade (${lane.fade})`}
        >
          {lane.name}
        </div>
        <ClipStrip lane={lane} open={open} width={width} height={height} waves={barred} />
      </div>
      {open && <ClipLayers clip={open} width={width} headPx={headPx} selected={selected} compact={compact} />}
    </section>
  );
}

/** A clip over the whole shot that is alone on its lane is shown by its layers. */
function hasBars({ clips }: Lane): boolean {
  return clips.length > 1 || clips.some(({ span_frames }) => span_frames !== null);
}

type ClipLayersProps = { clip: Clip; width: number; headPx: number; selected: string | null; compact: boolean };

function ClipLayers({ clip, width, headPx, selected, compact }: ClipLayersProps) {
  const layers = useStore(view, (each) => each.layers);
  const chosen = (id: string): Chosen =>
    selected === null ? "no" : id === selected ? "board" : layers.includes(id) ? "too" : "no";
  return [...clip.layers].reverse().map((layer) => (
    <div key={layer.id} className="flex" data-layer={layer.id}>
      <div className="shrink-0 border-base-300 border-r" style={{ width: headPx }}>
        <LayerHead clip={clip} layer={layer} chosen={chosen(layer.id)} compact={compact} />
      </div>
      <LayerLane layer={layer} width={width} chosen={chosen(layer.id)} compact={compact} />
    </div>
  ));
}
