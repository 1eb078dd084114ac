import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { prepare } from "../../shared/canvas";
import { drawSoon } from "../../shared/drawSoon";
import { type Part, scaleOfPart, type TimeScale } from "../../shared/timeScale";
import { useInSight } from "../../shared/useInSight";
import { useMotionArray } from "../../shared/useMotionArray";
import { view } from "../../stores/view";

export type LaneCanvasProps = {
  width: number;
  height: number;
  label: string;
  /** Name of the array it draws. */
  array: string;
  /** The part of the lanes that it covers, if not the full width. */
  part?: Part;
  /** Draws the lane; called again when its array, the time window, size or what it closes over change. */
  draw: (context: CanvasRenderingContext2D, x: TimeScale, canvas: HTMLCanvasElement) => void;
};

/** A lane's drawing. */
export function LaneCanvas({ width, height, label, array, part, draw }: LaneCanvasProps) {
  const ref = useRef<HTMLCanvasElement>(null);
  const inSight = useInSight(ref);
  const values = useMotionArray(array);
  const window = useStore(view, (state) => state.window);
  const night = useStore(view, (state) => state.night);
  const partLeft = part?.left;
  const partWidth = part?.of;
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas || width <= 0 || !inSight) return;
    const here = partLeft === undefined || partWidth === undefined ? undefined : { left: partLeft, of: partWidth };
    drawSoon(canvas, () => {
      const context = prepare(canvas, width, height);
      if (context) draw(context, scaleOfPart(window, width, here), canvas);
    });
  }, [values, window, width, height, partLeft, partWidth, draw, night, inSight]);
  return <canvas ref={ref} role="img" aria-label={label} style={{ width, height }} className="block" />;
}
