import { useEffect, useRef } from "react";
import { prepare } from "../../shared/canvas";
import { useMotionArray } from "../../shared/useMotionArray";
import { motion, rowOf } from "../../stores/motion";
import { transport } from "../../stores/transport";

const MARGIN_PX = 8;
const LEAST_REACH_DEG = 0.05;

/** Draws the sum's pan against tilt as an ink trace, with the present frame marked. */
function draw(canvas: HTMLCanvasElement, width: number, height: number): void {
  const context = prepare(canvas, width, height);
  const sum = motion.getState().arrays.get("sum");
  if (!context || !sum) return;
  const { data, columns } = sum;
  let reach = LEAST_REACH_DEG;
  for (let i = 0; i < data.length; i += columns) {
    reach = Math.max(reach, Math.abs(data[i] ?? 0), Math.abs(data[i + 1] ?? 0) * (width / height));
  }
  const scale = (width / 2 - MARGIN_PX) / reach;
  const x = (row: number) => width / 2 - (data[row * columns] ?? 0) * scale;
  const y = (row: number) => height / 2 - (data[row * columns + 1] ?? 0) * scale;
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
  for (let row = 0; row < data.length / columns; row++) context.lineTo(x(row), y(row));
  context.stroke();
  context.globalAlpha = 1;
  const now = rowOf(transport.getState().frame);
  context.fillStyle = "#D1432B";
  context.beginPath();
  context.arc(x(now), y(now), 3, 0, Math.PI * 2);
  context.fill();
}

/** The scribble: where the shake takes the centre of the picture. */
export function Scribble({ width, height }: { width: number; height: number }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const sum = useMotionArray("sum");
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas || !sum) return;
    draw(canvas, width, height);
    return transport.subscribe((state, before) => {
      if (state.frame !== before.frame) draw(canvas, width, height);
    });
  }, [sum, width, height]);
  return (
    <canvas
      ref={ref}
      style={{ width, height }}
      role="img"
      aria-label="Scribble: pan against tilt of the shake"
      className="rounded-sm bg-[#F4F0E6]/90"
    />
  );
}
