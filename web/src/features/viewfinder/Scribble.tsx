import { useEffect, useRef } from "react";
import type { MotionArray } from "../../api/motion";
import { prepare } from "../../shared/canvas";
import { drawSoon } from "../../shared/drawSoon";
import { trace } from "../../shared/traceLine";
import { useMotionArray } from "../../shared/useMotionArray";
import { rowOf } from "../../stores/motion";
import { transport } from "../../stores/transport";

const MARGIN_PX = 8;
const MIN_REACH_DEG = 0.05;
const DOT_PX = 6;

/** Position of a row's pan and tilt on the paper. */
function placing(sum: MotionArray, width: number, height: number) {
  const { data, columns } = sum;
  let reach = MIN_REACH_DEG;
  for (let i = 0; i < data.length; i += columns) {
    reach = Math.max(reach, Math.abs(data[i] ?? 0), Math.abs(data[i + 1] ?? 0) * (width / height));
  }
  const scale = (width / 2 - MARGIN_PX) / reach;
  return {
    scale,
    x: (row: number) => width / 2 - (data[row * columns] ?? 0) * scale,
    y: (row: number) => height / 2 - (data[row * columns + 1] ?? 0) * scale,
  };
}

/** Draws the sum's pan against tilt as an ink trace. */
function draw(canvas: HTMLCanvasElement, sum: MotionArray, width: number, height: number): void {
  const context = prepare(canvas, width, height);
  if (!context) return;
  const { scale } = placing(sum, width, height);
  context.strokeStyle = "#D8CDB6";
  context.lineWidth = 1;
  context.beginPath();
  context.moveTo(width / 2, 4);
  context.lineTo(width / 2, height - 4);
  context.moveTo(4, height / 2);
  context.lineTo(width - 4, height / 2);
  context.stroke();
  context.strokeStyle = "#20242F";
  context.globalAlpha = 0.75;
  context.lineJoin = "round";
  context.beginPath();
  trace(context, sum, (pan, tilt) => [width / 2 - pan * scale, height / 2 - tilt * scale]);
  context.stroke();
  context.globalAlpha = 1;
}

/** The scribble: where the shake takes the centre of the picture. The trace is drawn when it changes; only the dot goes with time. */
export function Scribble({ width, height }: { width: number; height: number }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const dot = useRef<HTMLSpanElement>(null);
  const sum = useMotionArray("sum");
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas || !sum) return;
    drawSoon(canvas, () => draw(canvas, sum, width, height));
    const { x, y } = placing(sum, width, height);
    const place = () => {
      const row = rowOf(transport.getState().frame);
      if (dot.current) dot.current.style.transform = `translate(${x(row) - DOT_PX / 2}px, ${y(row) - DOT_PX / 2}px)`;
    };
    place();
    return transport.subscribe((state, before) => {
      if (state.frame !== before.frame) place();
    });
  }, [sum, width, height]);
  return (
    <span className="relative block">
      <canvas
        ref={ref}
        style={{ width, height }}
        role="img"
        aria-label="Scribble: pan against tilt of the shake"
        className="rounded-sm bg-[#F4F0E6]/90"
      />
      <span
        ref={dot}
        className="absolute top-0 left-0 rounded-full bg-signal will-change-transform"
        style={{ width: DOT_PX, height: DOT_PX }}
      />
    </span>
  );
}
