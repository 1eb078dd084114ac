import { useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { type Pane, stage } from "../../stores/stage";
import { type Box, boxOf } from "./drawViews";

export type Hung = { pane: Pane; box: Box };

/** Positions of all panes on the canvas, measured again whenever one of them or the canvas changes its size. */
export function useBoxes(canvas: HTMLCanvasElement): React.RefObject<Hung[]> {
  const invalidate = useThree((state) => state.invalidate);
  const panes = useStore(stage, (state) => state.panes);
  const boxes = useRef<Hung[]>([]);
  useEffect(() => {
    // Through the lens first: it must not wait for the other.
    const order = [...panes].sort((a, b) => Number(a.camera === "outside") - Number(b.camera === "outside"));
    const take = () => {
      boxes.current = order.map((pane) => ({ pane, box: boxOf(pane.element, canvas) }));
      invalidate();
    };
    const watch = new ResizeObserver(take);
    for (const element of [canvas, ...panes.map((pane) => pane.element)]) watch.observe(element);
    take();
    return () => watch.disconnect();
  }, [panes, canvas, invalidate]);
  return boxes;
}
