import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import type { Swatch } from "../api/types";
import { prepare } from "../shared/canvas";
import { drawSoon } from "../shared/drawSoon";
import { type Paper, paperOf } from "../shared/paper";
import { view } from "../stores/view";

type Draw = (context: CanvasRenderingContext2D, swatch: Swatch, width: number, height: number, paper: Paper) => void;

type SwatchPictureProps = {
  label: string;
  swatch: Swatch | null;
  width: number;
  height: number;
  draw: Draw;
};

/** One of the pictures on a card; empty until it is made. */
export function SwatchPicture({ label, swatch, width, height, draw }: SwatchPictureProps) {
  const ref = useRef<HTMLCanvasElement>(null);
  const night = useStore(view, (state) => state.night);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    drawSoon(canvas, () => {
      const context = prepare(canvas, width, height);
      if (context && swatch) draw(context, swatch, width, height, paperOf(canvas));
    });
  }, [swatch, width, height, draw, night]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={label}
      data-drawn={swatch ? "yes" : "no"}
      className="block shrink-0"
      style={{ width, height }}
    />
  );
}
