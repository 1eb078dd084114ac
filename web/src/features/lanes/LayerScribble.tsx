import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import { prepare } from "../../shared/canvas";
import { drawSoon } from "../../shared/drawSoon";
import { paperOf } from "../../shared/paper";
import { traceLine } from "../../shared/traceLine";
import { useInSight } from "../../shared/useInSight";
import { useMotionArray } from "../../shared/useMotionArray";
import { view } from "../../stores/view";

const WIDTH_PX = 36;
const HEIGHT_PX = 24;

/** A layer's own scribble, as its thumbnail. */
export function LayerScribble({ id }: { id: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const inSight = useInSight(ref);
  const array = useMotionArray(`layer:${id}`);
  const night = useStore(view, (state) => state.night);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas || !inSight) return;
    drawSoon(canvas, () => {
      const context = prepare(canvas, WIDTH_PX, HEIGHT_PX);
      const inks = { cross: "transparent", line: paperOf(canvas).text };
      if (context) traceLine(context, array ?? null, WIDTH_PX, HEIGHT_PX, inks);
    });
  }, [array, night, inSight]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={`Scribble of ${id}`}
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
      className="ml-auto"
    />
  );
}
