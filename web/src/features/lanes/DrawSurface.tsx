import { useRef } from "react";
import { useStore } from "zustand";
import { timeScale } from "../../shared/timeScale";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { view } from "../../stores/view";
import { toWeight, toY } from "./hullGeometry";

type DrawSurfaceProps = { at: string; title: string; width: number; height: number };

type Stroke = [frame: number, weight: number][];

/** Over the selected layer or clip, while weights are drawn: a line drawn by hand becomes keys, as few as follow it. */
export function DrawSurface({ at, title, width, height }: DrawSurfaceProps) {
  const window = useStore(view, (state) => state.window);
  const x = timeScale(window, width);
  const drawn = useRef(new Map<number, number>());
  const last = useRef<[number, number] | null>(null);
  const { bind, live } = useTrialDrag<void, Stroke>({
    press: () => {
      drawn.current = new Map();
      last.current = null;
      return true;
    },
    live: ({ x: px, y: py, element }) => {
      const box = element.getBoundingClientRect();
      const frame = Math.min(window[1], Math.max(window[0], Math.round(x.invert(px - box.left))));
      const here: [number, number] = [frame, toWeight(py - box.top, height)];
      for (const [at, weight] of between(last.current ?? here, here)) drawn.current.set(at, weight);
      last.current = here;
      return [...drawn.current].sort(([a], [b]) => a - b);
    },
    command: (stroke) => ({
      type: "draw_keys",
      at,
      samples: stroke.map(([frame, value]) => ({ frame, value })),
    }),
  });
  const line = live?.value.map(([frame, weight]) => `${x(frame).toFixed(1)},${toY(weight, height).toFixed(1)}`);
  return (
    <svg
      width={width}
      height={height}
      className="absolute inset-0 z-[7] cursor-crosshair touch-none"
      role="img"
      aria-label={`Draw the ${title}`}
      {...bind()}
    >
      {line && <polyline points={line.join(" ")} className="fill-none stroke-[1.5] stroke-primary" />}
    </svg>
  );
}

/** All whole frames from one place to another, on the line between them. */
function between([a, from]: [number, number], [b, to]: [number, number]): Stroke {
  const steps = Math.abs(b - a);
  if (!steps) return [[b, to]];
  return Array.from({ length: steps }, (_, n) => {
    const share = (n + 1) / steps;
    return [Math.round(a + (b - a) * share), from + (to - from) * share];
  });
}
