import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { useWanted } from "../../shared/number";
import { useMotionArray } from "../../shared/useMotionArray";
import { frameAt } from "../../stores/motion";
import { transport } from "../../stores/transport";
import type { FormulaPlace } from "../../stores/view";

const WIDTH = 400;
const HEIGHT = 40;
const MARGIN = 3;
const MAX_POINTS = 800;

/** The curve that a formula gives over the shot, with its least and largest value and the playhead. */
export function FormulaCurve({ place }: { place: FormulaPlace }) {
  const { at, unit, times, digits } = place;
  useWanted([at]);
  const data = useMotionArray(`curve:${at}`)?.data;
  const pen = useRef<SVGLineElement>(null);
  const { first, last } = useStore(
    transport,
    useShallow((state) => ({ first: state.first, last: state.last })),
  );
  const x = (frame: number) => ((frame - first) / Math.max(last - first, 1)) * WIDTH;
  useEffect(() => {
    const follow = () => {
      const across = String(((transport.getState().frame - first) / Math.max(last - first, 1)) * WIDTH);
      pen.current?.setAttribute("x1", across);
      pen.current?.setAttribute("x2", across);
    };
    follow();
    return transport.subscribe(follow);
  }, [first, last]);
  if (!data?.length) return null;
  const low = data.reduce((least, value) => Math.min(least, value), Infinity);
  const high = data.reduce((most, value) => Math.max(most, value), -Infinity);
  const y = (value: number) => HEIGHT - MARGIN - ((value - low) / (high - low || 1)) * (HEIGHT - 2 * MARGIN);
  const stride = Math.max(1, Math.floor(data.length / MAX_POINTS));
  const points = Array.from({ length: Math.ceil(data.length / stride) }, (_, i) => i * stride);
  const formatted = (value: number) => `${(value * times).toFixed(digits)} ${unit}`;
  return (
    <div className="num flex items-stretch gap-2 text-(--graphite) text-[11px]">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none" className="h-10 min-w-0 flex-1 bg-base-200/60">
        <title>Values of the formula over the shot</title>
        <polyline
          points={points.map((row) => `${x(frameAt(row)).toFixed(1)},${y(data[row] ?? 0).toFixed(1)}`).join(" ")}
          fill="none"
          stroke="var(--color-primary)"
          vectorEffect="non-scaling-stroke"
        />
        <line ref={pen} y1={0} y2={HEIGHT} stroke="var(--color-signal)" vectorEffect="non-scaling-stroke" />
      </svg>
      <span className="flex flex-col justify-between text-right">
        <span>{formatted(high)}</span>
        <span>{formatted(low)}</span>
      </span>
    </div>
  );
}
