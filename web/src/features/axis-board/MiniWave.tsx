import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import type { MotionArray } from "../../api/motion";
import type { AxisName } from "../../api/types";
import { AXES, AXIS_TITLES, DASHES } from "../../shared/axes";
import { prepare } from "../../shared/canvas";
import { drawSoon } from "../../shared/drawSoon";
import { paperOf } from "../../shared/paper";
import { useMotionArray } from "../../shared/useMotionArray";
import { motion, rowOf } from "../../stores/motion";
import { clipOf, openShot } from "../../stores/openShot";
import { view } from "../../stores/view";

const WIDTH_PX = 52;
const HEIGHT_PX = 18;
/** About four seconds are enough to see what kind of motion it is. */
const SHOWN_FRAMES = 100;

/** Rows of the first frames from one on that are known one by one. */
function rowsFrom(array: MotionArray | undefined, from: number): [start: number, count: number] {
  if (!array) return [0, 0];
  const { exact } = motion.getState();
  const known = exact.some(([first, last]) => first <= from && from <= last);
  const start = rowOf(known ? from : (exact[0]?.[0] ?? from));
  return [start, Math.min(array.data.length / array.columns - start, SHOWN_FRAMES)];
}

/** Draws some seconds of an axis, from a frame on, to the height of its row. */
function drawMini(canvas: HTMLCanvasElement, array: MotionArray | undefined, axis: AxisName, from: number): void {
  const context = prepare(canvas, WIDTH_PX, HEIGHT_PX);
  if (!context) return;
  const [start, rows] = rowsFrom(array, from);
  const column = AXES.indexOf(axis);
  const value = (row: number) => array?.data[(start + row) * (array?.columns ?? 7) + column] ?? 0;
  let most = 1e-9;
  for (let row = 0; row < rows; row++) most = Math.max(most, Math.abs(value(row)));
  context.strokeStyle = paperOf(canvas).inks[axis];
  context.lineWidth = 1.2;
  context.setLineDash(DASHES[axis] as number[]);
  context.beginPath();
  if (most < 1e-8 || rows < 2) {
    context.moveTo(0, HEIGHT_PX / 2);
    context.lineTo(WIDTH_PX, HEIGHT_PX / 2);
  } else {
    for (let row = 0; row < rows; row++)
      context.lineTo((row / (rows - 1)) * WIDTH_PX, HEIGHT_PX / 2 - (value(row) / most) * (HEIGHT_PX / 2 - 2));
  }
  context.stroke();
  context.setLineDash([]);
}

/** The first seconds of an axis of a layer from where it is heard. */
export function MiniWave({ layer, axis }: { layer: string; axis: AxisName }) {
  const clipId = useStore(openShot, ({ state }) => state && clipOf(state, layer)?.id);
  const ref = useRef<HTMLCanvasElement>(null);
  const array = useMotionArray(`layer:${layer}`);
  // From where the layer and its clip are both heard.
  const from = useStore(motion, ({ readings, first }) => {
    const heard = readings?.layers.find((each) => each.layer === layer)?.span;
    const clip = readings?.clips.find((each) => each.clip === clipId)?.span;
    return Math.floor(Math.max(heard?.first_frame ?? first, clip?.first_frame ?? first, first));
  });
  const night = useStore(view, (state) => state.night);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    drawSoon(canvas, () => drawMini(canvas, array, axis, from));
  }, [array, axis, night, from]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={`Motion of ${AXIS_TITLES[axis]}`}
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
      className="block max-w-full"
    />
  );
}
