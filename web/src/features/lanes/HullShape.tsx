import { useRef } from "react";
import { useStore } from "zustand";
import { type Part, scaleOfPart } from "../../shared/timeScale";
import { useInSight } from "../../shared/useInSight";
import { useMotionArray } from "../../shared/useMotionArray";
import { view } from "../../stores/view";
import { outline } from "./hullGeometry";

type HullShapeProps = { array: string; width: number; height: number; part?: Part };

/** The translucent hull of a weight over time, behind a waveform. array: the samples of the weight. */
export function HullShape({ array, width, height, part }: HullShapeProps) {
  const ref = useRef<SVGSVGElement>(null);
  const inSight = useInSight(ref);
  const window = useStore(view, (state) => (inSight ? state.window : null));
  useMotionArray(array);
  const x = window && scaleOfPart(window, width, part);
  return (
    <svg ref={ref} width={width} height={height} className="pointer-events-none absolute inset-0" aria-hidden="true">
      <path
        d={x ? outline(array, x, [x.invert(0), x.invert(width)], height) : ""}
        fill="var(--color-base-300)"
        fillOpacity="0.4"
        stroke="var(--graphite)"
        strokeOpacity="0.5"
      />
    </svg>
  );
}
