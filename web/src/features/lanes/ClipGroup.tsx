import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Clip, Layer } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { type Chosen, LayerHead, LayerLane } from "./LayerRow";

const HEAD_HEIGHT_PX = 20;

/** A clip: its span as a strip with its name, and under it the layers it holds, the topmost first. */
export function ClipGroup({
  clip,
  width,
  headPx,
  selected,
  compact,
  anySolo,
}: {
  clip: Clip;
  width: number;
  headPx: number;
  selected: string | null;
  compact: boolean;
  anySolo: boolean;
}) {
  const window = useStore(view, (each) => each.window);
  const { first, last } = useStore(
    transport,
    useShallow(({ first, last }) => ({ first, last })),
  );
  const [start = first, stop = last] = clip.span_frames ?? [first, last];
  const layers = useStore(view, (each) => each.layers);
  const pending = useStore(session, (each) => each.pending);
  const now = (layer: Layer, field: "mute" | "solo") => Boolean(pending[`layer:${layer.id}.${field}`] ?? layer[field]);
  const chosen = (id: string): Chosen =>
    selected === null ? "no" : id === selected ? "board" : layers.includes(id) ? "too" : "no";
  const x = timeScale(window, width);
  const left = Math.max(0, x(start));
  const right = Math.min(width, x(stop));
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
        <div className="relative overflow-hidden" style={{ width }}>
          {right > left && (
            <div
              className="cond absolute inset-y-[3px] truncate rounded-t-md border border-base-300 border-b-0 bg-base-200 px-2 text-[11px] text-(--graphite) leading-[15px]"
              style={{ left, width: right - left }}
            >
              {clip.name} · frames {start}–{stop}
            </div>
          )}
        </div>
      </div>
      {[...clip.layers].reverse().map((layer) => (
        <div key={layer.id} className="flex" data-layer={layer.id}>
          <div className="shrink-0 border-base-300 border-r" style={{ width: headPx }}>
            <LayerHead clip={clip} layer={layer} chosen={chosen(layer.id)} compact={compact} />
          </div>
          <LayerLane
            layer={layer}
            width={width}
            chosen={chosen(layer.id)}
            compact={compact}
            silent={clip.mute || now(layer, "mute") || (anySolo && !now(layer, "solo"))}
          />
        </div>
      ))}
    </section>
  );
}
