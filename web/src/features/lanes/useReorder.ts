import { useState } from "react";
import type { Clip, Layer } from "../../api/types";
import { type DragState, useDragging } from "../../shared/useDragging";
import { commit } from "../../stores/editing";

/** Dragging a lane head up or down puts the layer elsewhere in its clip. `by` is how many rows it is held away, upwards. */
export function useReorder(clip: Clip, layer: Layer, rowPx: number) {
  const [by, setBy] = useState<number | null>(null);
  const index = clip.layers.findIndex(({ id }) => id === layer.id);
  const rise = (held: DragState<void>) =>
    Math.min(clip.layers.length - 1, Math.max(0, index - Math.round(held.dy / rowPx))) - index;
  const bind = useDragging<void>({
    press: ({ shiftKey, ctrlKey }) => !shiftKey && !ctrlKey,
    move: (held) => setBy(rise(held)),
    drop: (held) => {
      setBy(null);
      if (rise(held) !== 0) void commit({ type: "move_layer", layer: layer.id, index: index + rise(held) });
    },
    cancel: () => setBy(null),
  });
  return { by, handle: bind() };
}
