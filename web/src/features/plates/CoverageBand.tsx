import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import type { MotionArray } from "../../api/motion";
import { prepare } from "../../shared/canvas";
import { timeScale } from "../../shared/timeScale";
import { useMotionArray } from "../../shared/useMotionArray";
import { stretchesOf, useSetEdge } from "../../shared/useSetEdge";
import { frameAt } from "../../stores/motion";
import { view } from "../../stores/view";

const HIGH_PX = 4;
const SIDES = 4;

/** First and last of the frames in a row in which the edge of a plate shows. */
function bareIn({ data, columns }: MotionArray): [number, number][] {
  const out: [number, number][] = [];
  let open = false;
  for (let row = 0; row * columns < data.length; row++) {
    const bare = data.subarray(row * columns, row * columns + SIDES).some((side) => side > 0);
    const last = out.at(-1);
    if (bare && open && last) last[1] = frameAt(row);
    else if (bare) out.push([frameAt(row), frameAt(row)]);
    open = bare;
  }
  return out;
}

/** A band over the ruler where the edge of a plate shows, or of the set. */
export function CoverageBand({ width }: { width: number }) {
  const array = useMotionArray("coverage");
  const edge = useSetEdge();
  const window = useStore(view, (each) => each.window);
  const night = useStore(view, (each) => each.night);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const ink = canvas.current && prepare(canvas.current, width, HIGH_PX);
    if (!ink || !canvas.current) return;
    ink.fillStyle = getComputedStyle(canvas.current).getPropertyValue("--ink-dolly");
    const x = timeScale(window, width);
    const fill = (first: number, last: number) => {
      const startX = x(first - 0.5);
      ink.fillRect(startX, 0, Math.max(1, x(last + 0.5) - startX), HIGH_PX);
    };
    for (const [first, last] of [...stretchesOf(edge), ...(array ? bareIn(array) : [])]) fill(first, last);
  }, [array, edge, window, width, night]);
  if (!array && !edge) return null;
  return (
    <canvas
      ref={canvas}
      data-testid="coverage-band"
      role="img"
      aria-label="Where the edge of a plate or of the set shows"
      className="pointer-events-none absolute top-0 left-0 z-[1]"
      style={{ width, height: HIGH_PX }}
    />
  );
}
