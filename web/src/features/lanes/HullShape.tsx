import { useStore } from "zustand";
import type { Layer } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { useMotionArray } from "../../shared/useMotionArray";
import { view } from "../../stores/view";
import { outline } from "./hullGeometry";

/** The translucent hull of a layer's weight, behind its waveform. */
export function HullShape({ layer, width, height }: { layer: Layer; width: number; height: number }) {
  const window = useStore(view, (state) => state.window);
  useMotionArray(`weight:${layer.id}`);
  return (
    <svg width={width} height={height} className="pointer-events-none absolute inset-0" aria-hidden="true">
      <path
        d={outline(layer.id, timeScale(window, width), window, height)}
        fill="var(--color-base-300)"
        fillOpacity="0.4"
        stroke="var(--graphite)"
        strokeOpacity="0.5"
      />
    </svg>
  );
}
