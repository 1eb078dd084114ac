import { useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { timeScale } from "../../shared/timeScale";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { useSize } from "../../shared/useSize";
import { motion, rowOf } from "../../stores/motion";
import { commit } from "../../stores/session";
import { view } from "../../stores/view";
import { CurvePoints } from "./CurvePoints";
import type { GroupProps } from "./groups";
import { extent, linePath, valueScale, valueTicks } from "./plot";

/** Curves with their points. Wheel zooms the values, Ctrl-wheel the time; double-click adds a point to the nearest curve. */
export function CurvePlot({ tracks, unit, times, width }: GroupProps) {
  const [ref, size] = useSize<HTMLDivElement>();
  const window = useStore(view, (state) => state.window);
  const version = useMotionVersion();
  const [range, setRange] = useState<[number, number] | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const state = motion.getState();
  const arrays = tracks.map((track) => state.arrays.get(`curve:${track.at}`));
  const pose = state.arrays.get("pose");
  const fit = useMemo(
    () => (version >= 0 ? extent(tracks, motion.getState()) : ([0, 1] as [number, number])),
    [tracks, version],
  );
  const values = range ?? fit;
  const height = size.height;
  const x = timeScale(window, width);
  const y = valueScale(values, height);

  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      if (event.ctrlKey || event.shiftKey) return;
      event.preventDefault();
      event.stopPropagation();
      const about = y.invert(event.clientY - element.getBoundingClientRect().top);
      const factor = event.altKey ? 1 : Math.exp(event.deltaY * 0.002);
      const shift = event.altKey ? ((values[1] - values[0]) * event.deltaY) / 600 : 0;
      setRange([about + (values[0] - about) * factor + shift, about + (values[1] - about) * factor + shift]);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  });

  const insert = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const frame = Math.round(x.invert(event.clientX - box.left));
    const value = y.invert(event.clientY - box.top);
    const row = rowOf(frame);
    const near = tracks
      .map((track, index) => ({ track, off: Math.abs((arrays[index]?.data[row] ?? Infinity) - value) }))
      .sort((a, b) => a.off - b.off)[0];
    if (near) void commit({ type: "set_keys", keys: [{ at: near.track.at, frame, value }] });
  };

  return (
    <div ref={ref} className="relative min-w-0 flex-1 overflow-hidden">
      {height > 0 && (
        <svg
          ref={svg}
          width={width}
          height={height}
          className="absolute inset-0 touch-none"
          role="img"
          aria-label="Curves"
          onDoubleClick={insert}
        >
          {valueTicks([values[0] * times, values[1] * times], height).map((tick) => (
            <g key={tick}>
              <line
                x1={0}
                x2={width}
                y1={y(tick / times)}
                y2={y(tick / times)}
                stroke="var(--color-base-300)"
                strokeWidth={tick === 0 ? 1.5 : 0.75}
              />
              <text x={16} y={y(tick / times) - 2} fontSize="10" className="num" fill="var(--graphite)">
                {Number(tick.toPrecision(6))} {unit}
              </text>
            </g>
          ))}
          {pose &&
            tracks.map((track) =>
              track.shaken === undefined ? null : (
                <path
                  key={track.at}
                  d={linePath(pose, track.shaken, x, y, width)}
                  fill="none"
                  stroke={`var(--ink-${track.ink})`}
                  strokeOpacity="0.35"
                  strokeWidth="1"
                />
              ),
            )}
          {tracks.map((track, index) => {
            const array = arrays[index];
            return array ? (
              <path
                key={track.at}
                d={linePath(array, 0, x, y, width)}
                fill="none"
                stroke={`var(--ink-${track.ink})`}
                strokeWidth="1.6"
              />
            ) : null;
          })}
          <CurvePoints tracks={tracks} unit={unit} times={times} x={x} y={y} width={width} height={height} />
        </svg>
      )}
      <button
        type="button"
        className="btn btn-xs absolute right-2 bottom-2"
        title="Show all values"
        onClick={() => setRange(null)}
      >
        Fit values
      </button>
    </div>
  );
}
