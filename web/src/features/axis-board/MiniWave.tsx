import { useMemo } from "react";
import { useStore } from "zustand";
import type { MotionArray } from "../../api/motion";
import type { AxisName } from "../../api/types";
import { AXES, AXIS_TITLES, DASHES } from "../../shared/axes";
import { useMotionArray } from "../../shared/useMotionArray";
import { motion, rowOf } from "../../stores/motion";
import { clipOf, openShot } from "../../stores/openShot";

const WIDTH_PX = 52;
const HEIGHT_PX = 18;
/** About four seconds are enough to see what kind of motion it is. */
const SHOWN_FRAMES = 100;
/** Less is no motion: rounding. */
const NOTHING = 1e-8;

/** Rows of the first frames from one on that are known one by one. */
function rowsFrom(array: MotionArray | undefined, from: number): [start: number, count: number] {
  if (!array) return [0, 0];
  const { exact } = motion.getState();
  const known = exact.some(([first, last]) => first <= from && from <= last);
  const start = rowOf(known ? from : (exact[0]?.[0] ?? from));
  return [start, Math.min(array.data.length / array.columns - start, SHOWN_FRAMES)];
}

/** The curve of some seconds of an axis, from a frame on, to the height of its row: the data of a path. */
function miniPath(array: MotionArray | undefined, axis: AxisName, from: number): string {
  const [start, rows] = rowsFrom(array, from);
  const column = AXES.indexOf(axis);
  const values = Array.from({ length: rows }, (_, row) => array?.data[(start + row) * array.columns + column] ?? 0);
  const maximum = Math.max(...values.map(Math.abs), 0);
  if (maximum < NOTHING || rows < 2) return `M0 ${HEIGHT_PX / 2}H${WIDTH_PX}`;
  const x = (row: number) => ((row / (rows - 1)) * WIDTH_PX).toFixed(1);
  const y = (value: number) => (HEIGHT_PX / 2 - (value / maximum) * (HEIGHT_PX / 2 - 2)).toFixed(2);
  return `M${values.map((value, row) => `${x(row)} ${y(value)}`).join("L")}`;
}

/** The first seconds of an axis of a layer from its active start. Part of the page, not a canvas: each of those is a layer that the browser puts together with all others for every picture. */
export function MiniWave({ layer, axis }: { layer: string; axis: AxisName }) {
  const clipId = useStore(openShot, ({ state }) => state && clipOf(state, layer)?.id);
  const array = useMotionArray(`layer:${layer}`);
  // From the frame where the layer and its clip are both active.
  const from = useStore(motion, ({ readings, first }) => {
    const activeSpan = readings?.layers.find((each) => each.layer === layer)?.span;
    const clip = readings?.clips.find((each) => each.clip === clipId)?.span;
    return Math.floor(Math.max(activeSpan?.first_frame ?? first, clip?.first_frame ?? first, first));
  });
  const path = useMemo(() => miniPath(array, axis, from), [array, axis, from]);
  return (
    <svg
      role="img"
      aria-label={`Motion of ${AXIS_TITLES[axis]}`}
      viewBox={`0 0 ${WIDTH_PX} ${HEIGHT_PX}`}
      preserveAspectRatio="none"
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
      className="block max-w-full"
    >
      <path
        d={path}
        fill="none"
        stroke={`var(--ink-${axis})`}
        strokeWidth={1.2}
        strokeDasharray={DASHES[axis].join(" ")}
      />
    </svg>
  );
}
