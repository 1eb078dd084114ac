import { useMemo, useRef } from "react";
import { useStore } from "zustand";
import { timeScale } from "../../shared/timeScale";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { useSize } from "../../shared/useSize";
import { commit } from "../../stores/editing";
import { motion, rowOf } from "../../stores/motion";
import { view } from "../../stores/view";
import { CurveLines, ValueRules } from "./CurveLines";
import { CurvePoints } from "./CurvePoints";
import type { GroupProps } from "./groups";
import { extent, valueScale } from "./plot";
import { useValueRange } from "./useValueRange";

/** Curves with their points. Wheel zooms the values, Ctrl-wheel the time; double-click adds a point to the nearest curve. */
export function CurvePlot({ tracks, unit, times, width }: GroupProps) {
  const [ref, { height }] = useSize<HTMLDivElement>();
  const window = useStore(view, (state) => state.window);
  const version = useMotionVersion();
  const svg = useRef<SVGSVGElement>(null);
  const { arrays } = motion.getState();
  const fit = useMemo(
    () => (version >= 0 ? extent(tracks, motion.getState()) : ([0, 1] as [number, number])),
    [tracks, version],
  );
  const { values, fitAgain } = useValueRange(svg, fit, (at, range) => valueScale(range, height).invert(at));
  const x = useMemo(() => timeScale(window, width), [window, width]);
  const y = valueScale(values, height);
  const insert = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const frame = Math.round(x.invert(event.clientX - box.left));
    const value = y.invert(event.clientY - box.top);
    const off = (at: string) => Math.abs((arrays.get(`curve:${at}`)?.data[rowOf(frame)] ?? Infinity) - value);
    const [near] = [...tracks].sort((a, b) => off(a.at) - off(b.at));
    if (near) void commit({ type: "set_keys", keys: [{ at: near.at, frame, value }] });
  };
  return (
    <div ref={ref} className="relative min-w-0 flex-1 overflow-hidden">
      {height > 0 && (
        <svg
          ref={svg}
          width={width}
          height={height}
          className="absolute inset-0 touch-none"
          role="group"
          aria-label="Curves"
          onDoubleClick={insert}
        >
          <ValueRules values={values} y={y} unit={unit} times={times} width={width} height={height} />
          <CurveLines tracks={tracks} arrays={arrays} x={x} y={y} width={width} />
          <CurvePoints tracks={tracks} unit={unit} times={times} x={x} y={y} width={width} height={height} />
        </svg>
      )}
      <button type="button" className="btn btn-xs absolute right-2 bottom-2" title="Show all values" onClick={fitAgain}>
        Fit values
      </button>
    </div>
  );
}
