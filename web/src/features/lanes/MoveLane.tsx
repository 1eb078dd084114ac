import { useState } from "react";
import { useStore } from "zustand";
import { moveFrames } from "../../acts/moveFrames";
import type { Shot } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { useDragging } from "../../shared/useDragging";
import { selectPins, view } from "../../stores/view";
import { drawMove } from "./drawMove";
import { LaneCanvas } from "./LaneCanvas";
import { MovePins } from "./MovePins";

export const MOVE_HEIGHT_PX = 46;

/** The keyed move: each axis drawn to its own height, with pins at the keys. Dragging over it selects the pins of a stretch. */
export function MoveLane({ width, shot }: { width: number; shot: Shot }) {
  const window = useStore(view, (state) => state.window);
  const [stretch, setStretch] = useState<[number, number] | null>(null);
  const x = timeScale(window, width);
  const select = (pointer: number, dx: number, element: Element): [number, number] => {
    const to = pointer - element.getBoundingClientRect().left;
    return [Math.min(to - dx, to), Math.max(to - dx, to)];
  };
  const bind = useDragging<void>({
    press: () => {
      selectPins([]);
      return true;
    },
    move: (held) => setStretch(select(held.x, held.dx, held.element)),
    drop: (held) => {
      const [from, to] = select(held.x, held.dx, held.element);
      selectPins(moveFrames(shot).filter((frame) => x(frame) >= from && x(frame) <= to));
      setStretch(null);
    },
    cancel: () => setStretch(null),
  });
  return (
    <div className="relative" data-testid="move-lane">
      <button
        type="button"
        aria-label="Select the move"
        title="Drag to select keys"
        className="block w-full cursor-pointer touch-none"
        {...bind()}
        onClick={(event) => event.detail === 0 && selectPins([])}
      >
        <LaneCanvas width={width} height={MOVE_HEIGHT_PX} label="The camera's move" array="bare" draw={drawMove} />
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
