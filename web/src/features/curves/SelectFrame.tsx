import { useState } from "react";
import { type DragState, useDragging } from "../../shared/useDragging";

export type Box = { left: number; right: number; top: number; bottom: number };

function boxOf({ x, y, dx, dy, element }: DragState<void>): Box {
  const origin = element.closest("svg")?.getBoundingClientRect();
  const [px, py] = [x - (origin?.left ?? 0), y - (origin?.top ?? 0)];
  return {
    left: Math.min(px, px - dx),
    right: Math.max(px, px - dx),
    top: Math.min(py, py - dy),
    bottom: Math.max(py, py - dy),
  };
}

type SelectFrameProps = { width: number; height: number; onSelect: (box: Box, more: boolean) => void };

/** The ground behind the points: a frame drawn on it selects what lies inside; a click selects nothing. */
export function SelectFrame({ width, height, onSelect }: SelectFrameProps) {
  const [box, setBox] = useState<Box | null>(null);
  const bind = useDragging<void>({
    move: (held) => setBox(boxOf(held)),
    drop: (held) => {
      setBox(null);
      onSelect(boxOf(held), held.shiftKey);
    },
    tap: (held) => onSelect(boxOf(held), held.shiftKey),
    cancel: () => setBox(null),
  });
  return (
    <>
      <rect width={width} height={height} fill="transparent" {...bind()} />
      {box && (
        <rect
          x={box.left}
          y={box.top}
          width={box.right - box.left}
          height={box.bottom - box.top}
          fill="var(--wash)"
          fillOpacity="0.5"
          stroke="var(--color-primary)"
          pointerEvents="none"
        />
      )}
    </>
  );
}
