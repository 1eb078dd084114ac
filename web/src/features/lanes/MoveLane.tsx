import { useCallback, useRef, useState } from "react";
import { useStore } from "zustand";
import type { AxisName, Shot } from "../../api/types";
import { type TimeScale, timeScale } from "../../shared/timeScale";
import { motion } from "../../stores/motion";
import { selectPins, view } from "../../stores/view";
import { drawWaves, inksOf } from "./drawWave";
import { LaneCanvas } from "./LaneCanvas";
import { MovePins } from "./MovePins";
import { moveFrames } from "./moveFrames";

export const MOVE_HEIGHT_PX = 46;
const PIN_ROW_PX = 16;
/** Columns of the bare pose that the lane draws, with the axis whose ink they take. */
const CURVES: [AxisName, number][] = [
  ["truck", 0],
  ["pedestal", 1],
  ["dolly", 2],
  ["pan", 3],
  ["tilt", 4],
  ["roll", 5],
];

/** The keyed move: each axis drawn to its own height, with pins at the keys. */
export function MoveLane({ width, shot }: { width: number; shot: Shot }) {
  const window = useStore(view, (state) => state.window);
  const from = useRef<number | null>(null);
  const [stretch, setStretch] = useState<[number, number] | null>(null);
  const draw = useCallback((context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) => {
    const bare = motion.getState().arrays.get("bare");
    if (!bare) return;
    const inks = inksOf(canvas);
    const box = { top: PIN_ROW_PX, height: MOVE_HEIGHT_PX - PIN_ROW_PX - 4, width: canvas.clientWidth };
    for (const [axis, column] of CURVES) {
      let low = Infinity;
      let high = -Infinity;
      for (let at = column; at < bare.data.length; at += bare.columns) {
        low = Math.min(low, bare.data[at] ?? 0);
        high = Math.max(high, bare.data[at] ?? 0);
      }
      if (high - low < 1e-6) continue;
      const centred = {
        ...bare,
        data: bare.data.map((value, i) => (i % bare.columns === column ? value - (low + high) / 2 : value)),
      };
      const perUnit = (axis === "dolly" ? -1 : 1) / (high - low);
      drawWaves(context, centred, [{ axis, column, perUnit }], x, box, box.height * 0.86, inks, 0.9);
    }
  }, []);
  const x = timeScale(window, width);
  return (
    <div className="relative" data-testid="move-lane">
      <button
        type="button"
        aria-label="Select the move"
        title="Drag to select the pins of a stretch"
        className="block w-full cursor-pointer touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = event.clientX - event.currentTarget.getBoundingClientRect().left;
          selectPins([]);
        }}
        onPointerMove={(event) => {
          if (from.current === null) return;
          const to = event.clientX - event.currentTarget.getBoundingClientRect().left;
          setStretch([Math.min(from.current, to), Math.max(from.current, to)]);
        }}
        onPointerUp={() => {
          from.current = null;
          if (stretch) selectPins(moveFrames(shot).filter((frame) => x(frame) >= stretch[0] && x(frame) <= stretch[1]));
          setStretch(null);
        }}
      >
        <LaneCanvas width={width} height={MOVE_HEIGHT_PX} label="The camera's move" array="bare" draw={draw} />
      </button>
      {stretch && (
        <span
          className="pointer-events-none absolute inset-y-0 bg-primary/15"
          style={{ left: stretch[0], width: stretch[1] - stretch[0] }}
        />
      )}
      <MovePins shot={shot} x={x} width={width} />
    </div>
  );
}
