import type { ReactNode } from "react";

type DragNoteProps = { left: number; top: number; children: ReactNode };

/** The value of a drag on a lane. */
export function DragNote({ left, top, children }: DragNoteProps) {
  return (
    <span
      className="num pointer-events-none absolute z-[6] rounded-sm bg-primary px-1 text-[11px] text-primary-content"
      style={{ left, top }}
    >
      {children}
    </span>
  );
}
