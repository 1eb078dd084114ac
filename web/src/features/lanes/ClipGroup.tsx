import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Clip } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { LayerHead, LayerLane } from "./LayerRow";

const HEAD_HEIGHT_PX = 22;

/** A clip: its span as a strip with its name, and under it the layers it holds, the topmost first. */
export function ClipGroup({
  clip,
  width,
  headPx,
  selected,
  anySolo,
}: {
  clip: Clip;
  width: number;
  headPx: number;
  selected: string | null;
  anySolo: boolean;
}) {
  const window = useStore(view, (each) => each.window);
  const { first, last } = useStore(
    transport,
    useShallow(({ first, last }) => ({ first, last })),
  );
  const [start = first, stop = last] = clip.span_frames ?? [first, last];
  const x = timeScale(window, width);
  const left = Math.max(0, x(start));
  const right = Math.min(width, x(stop));
  return (
    <section aria-label={`Clip ${clip.name}`} data-clip={clip.id}>
      <div className="flex" style={{ height: HEAD_HEIGHT_PX }}>
        <div
          className="cond shrink-0 truncate border-base-300 border-r px-3 text-(--graphite) text-xs leading-[22px]"
          style={{ width: headPx }}
          title={clip.name}
        >
          {clip.name}
        </div>
        <div className="relative overflow-hidden" style={{ width }}>
          {right > left && (
            <div
              className="cond absolute inset-y-[3px] truncate rounded-t-md border border-base-300 border-b-0 bg-base-200 px-2 text-[11px] text-(--graphite) leading-[17px]"
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
            <LayerHead layer={layer} selected={layer.id === selected} />
          </div>
          <LayerLane
            layer={layer}
            width={width}
            selected={layer.id === selected}
            silent={clip.mute || layer.mute || (anySolo && !layer.solo)}
          />
        </div>
      ))}
    </section>
  );
}
