import { useStore } from "zustand";
import type { Clip, Lane } from "../../api/types";
import { view } from "../../stores/view";
import { ClipBar } from "./ClipBar";
import { type Chosen, LayerHead } from "./LayerHead";
import { LayerLane } from "./LayerLane";

const HEAD_HEIGHT_PX = 20;

type LaneGroupProps = { lane: Lane; width: number; headPx: number; selected: string | null; compact: boolean };

/** A lane: its clips as bars, and under them the layers of the one that is open, the topmost first. */
export function LaneGroup({ lane, width, headPx, selected, compact }: LaneGroupProps) {
  const wanted = useStore(view, (each) => each.open[lane.id]);
  const open = lane.clips.find(({ id }) => id === wanted) ?? lane.clips.at(-1);
  return (
    <section aria-label={`Lane ${lane.name}`} data-lane={lane.id}>
      <div className="flex" style={{ height: HEAD_HEIGHT_PX }}>
        <div
          className="cond shrink-0 truncate border-base-300 border-r px-3 text-(--graphite) text-xs leading-[20px]"
          style={{ width: headPx }}
          title={`${lane.name}: clips that overlap cross-fade (${lane.fade})`}
        >
          {lane.name}
        </div>
        <div className="relative overflow-hidden" style={{ width }}>
          {lane.clips.map((clip) => (
            <ClipBar key={clip.id} clip={clip} open={clip === open} width={width} height={HEAD_HEIGHT_PX} />
          ))}
        </div>
      </div>
      {open && <ClipLayers clip={open} width={width} headPx={headPx} selected={selected} compact={compact} />}
    </section>
  );
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
