import { useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { type Box, boxOf } from "./drawViews";
import { stage } from "./stageStore";

export type Boxes = { finder: Box | null; outside: Box | null; trials: [string, Box][] };

/** Where all panes lie on the canvas, taken anew whenever one of them or the canvas changes its size. */
export function useBoxes(canvas: HTMLCanvasElement): React.RefObject<Boxes> {
  const invalidate = useThree((state) => state.invalidate);
  const finder = useStore(stage, (state) => state.finder);
  const outside = useStore(stage, (state) => state.outside);
  const trials = useStore(stage, (state) => state.trials);
  const boxes = useRef<Boxes>({ finder: null, outside: null, trials: [] });
  useEffect(() => {
    const take = () => {
      boxes.current = {
        finder: finder && boxOf(finder, canvas),
        outside: outside && boxOf(outside, canvas),
        trials: Object.entries(trials).map(([key, pane]) => [key, boxOf(pane, canvas)]),
      };
      invalidate();
    };
    const watch = new ResizeObserver(take);
    for (const element of [finder, outside, canvas, ...Object.values(trials)]) if (element) watch.observe(element);
    take();
    return () => watch.disconnect();
  }, [finder, outside, trials, canvas, invalidate]);
  return boxes;
}
