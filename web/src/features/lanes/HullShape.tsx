import { useStore } from "zustand";
import { timeScale } from "../../shared/timeScale";
import { useMotionArray } from "../../shared/useMotionArray";
import { view } from "../../stores/view";
import { outline } from "./hullGeometry";

/** The translucent hull of a weight over time, behind a waveform. array: the samples of the weight. */
export function HullShape({ array, width, height }: { array: string; width: number; height: number }) {
  const window = useStore(view, (state) => state.window);
  useMotionArray(array);
  return (
    <svg width={width} height={height} className="pointer-events-none absolute inset-0" aria-hidden="true">
      <path
        d={outline(array, timeScale(window, width), window, height)}
        fill="var(--color-base-300)"
        fillOpacity="0.4"
        stroke="var(--graphite)"
        strokeOpacity="0.5"
      />
    </svg>
  );
}
