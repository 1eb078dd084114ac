import { useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { type Box, boxOf } from "./drawViews";
import { stage } from "./stageStore";

export type Boxes = { finder: Box | null; outside: Box | null };

/** Where both panes lie on the canvas, taken anew whenever one of the three changes its size. */
export function useBoxes(canvas: HTMLCanvasElement): React.RefObject<Boxes> {
  const invalidate = useThree((state) => state.invalidate);
  const finder = useStore(stage, (state) => state.finder);
  const outside = useStore(stage, (state) => state.outside);
  const boxes = useRef<Boxes>({ finder: null, outside: null });
  useEffect(() => {
    const take = () => {
      boxes.current = { finder: finder && boxOf(finder, canvas), outside: outside && boxOf(outside, canvas) };
      invalidate();
    };
    const watch = new ResizeObserver(take);
    for (const element of [finder, outside, canvas]) if (element) watch.observe(element);
    take();
    return () => watch.disconnect();
  }, [finder, outside, canvas, invalidate]);
  return boxes;
}
