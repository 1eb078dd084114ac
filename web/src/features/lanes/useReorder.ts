import { useRef, useState } from "react";
import type { Clip, Layer } from "../../api/types";
import { commit } from "../../stores/session";

const DRAG_STARTS_PX = 6;

/** Dragging a lane head up or down puts the layer elsewhere in its clip. `by` is how many rows it is held away, upwards. */
export function useReorder(clip: Clip, layer: Layer, rowPx: number) {
  const [by, setBy] = useState<number | null>(null);
  const drag = useRef<{ y: number; moved: boolean } | null>(null);
  const index = clip.layers.findIndex(({ id }) => id === layer.id);
  const rows = (dy: number) => Math.min(clip.layers.length - 1, Math.max(0, index - Math.round(dy / rowPx))) - index;
  return {
    by,
    handle: {
      onPointerDown: (event: React.PointerEvent) => {
        if (event.button !== 0 || event.shiftKey || event.ctrlKey || event.metaKey) return;
        drag.current = { y: event.clientY, moved: false };
        event.currentTarget.setPointerCapture(event.pointerId);
      },
      onPointerMove: (event: React.PointerEvent) => {
        const start = drag.current;
        if (!start) return;
        const dy = event.clientY - start.y;
        if (!start.moved && Math.abs(dy) < DRAG_STARTS_PX) return;
        start.moved = true;
        setBy(rows(dy));
      },
      onPointerUp: (event: React.PointerEvent) => {
        const start = drag.current;
        drag.current = null;
        setBy(null);
        if (!start?.moved) return;
        const rise = rows(event.clientY - start.y);
        if (rise !== 0) void commit({ type: "move_layer", layer: layer.id, index: index + rise });
      },
      onPointerCancel: () => {
        drag.current = null;
        setBy(null);
      },
    },
  };
}
