import { useStore } from "zustand";
import type { Clip } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { view } from "../../stores/view";
import { type Chosen, LayerHead } from "./LayerHead";
import { LayerLane } from "./LayerLane";
import { useClipSpan } from "./useLayerReading";

const HEAD_HEIGHT_PX = 20;

type ClipGroupProps = { clip: Clip; width: number; headPx: number; selected: string | null; compact: boolean };

/** A clip: its span as a strip with its name, and under it the layers it holds, the topmost first. */
export function ClipGroup({ clip, width, headPx, selected, compact }: ClipGroupProps) {
  const layers = useStore(view, (each) => each.layers);
  const chosen = (id: string): Chosen =>
    selected === null ? "no" : id === selected ? "board" : layers.includes(id) ? "too" : "no";
  return (
    <section aria-label={`Clip ${clip.name}`} data-clip={clip.id}>
      <div className="flex" style={{ height: HEAD_HEIGHT_PX }}>
        <div
          className="cond shrink-0 truncate border-base-300 border-r px-3 text-(--graphite) text-xs leading-[20px]"
          style={{ width: headPx }}
          title={clip.name}
        >
          {clip.name}
        </div>
        <ClipStrip clip={clip} width={width} />
      </div>
      {[...clip.layers].reverse().map((layer) => (
        <div key={layer.id} className="flex" data-layer={layer.id}>
          <div className="shrink-0 border-base-300 border-r" style={{ width: headPx }}>
            <LayerHead clip={clip} layer={layer} chosen={chosen(layer.id)} compact={compact} />
          </div>
          <LayerLane layer={layer} width={width} chosen={chosen(layer.id)} compact={compact} />
        </div>
      ))}
    </section>
  );
}

function ClipStrip({ clip, width }: { clip: Clip; width: number }) {
  const window = useStore(view, (each) => each.window);
  const span = useClipSpan(clip.id);
  const x = timeScale(window, width);
  const left = span ? Math.max(0, x(span.first_frame)) : 0;
  const right = span ? Math.min(width, x(span.last_frame)) : 0;
  return (
    <div className="relative overflow-hidden" style={{ width }}>
      {span && right > left && (
        <div
          className="cond absolute inset-y-[3px] truncate rounded-t-md border border-base-300 border-b-0 bg-base-200 px-2 text-(--graphite) text-[11px] leading-[15px]"
          style={{ left, width: right - left }}
        >
          {clip.name} · frames {span.first_frame}–{span.last_frame}
        </div>
      )}
    </div>
  );
}
