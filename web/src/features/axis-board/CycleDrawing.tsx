import { useRef, useState } from "react";
import type { Layer } from "../../api/types";
import { cancelPreview, commit, preview } from "../../stores/session";

const WIDTH = 340;
const HEIGHT = 64;
const MARGIN = 8;
const REACH = 1.25;

type Point = [number, number];

const toX = (percent: number) => MARGIN + (percent / 100) * (WIDTH - 2 * MARGIN);
const toY = (height: number) => HEIGHT / 2 - (height / REACH) * (HEIGHT / 2 - MARGIN);

/** The drawing of a cycle: drag points, double-click adds one, double-click on a point removes it. */
export function CycleDrawing({ layer }: { layer: Layer }) {
  const [live, setLive] = useState<Point[] | null>(null);
  const drag = useRef<number | null>(null);
  if (layer.source.kind !== "cycle") return null;
  const at = `layer:${layer.id}.source`;
  const points = live ?? (layer.source.points as Point[]);
  const set = (value: Point[]) => ({ type: "set_values" as const, values: [{ at: `${at}.points`, value }] });
  const place = (event: React.PointerEvent | React.MouseEvent, svg: SVGElement): Point => {
    const box = svg.getBoundingClientRect();
    const percent = (((event.clientX - box.left) / box.width) * WIDTH - MARGIN) / (WIDTH - 2 * MARGIN);
    const height = ((HEIGHT / 2 - ((event.clientY - box.top) / box.height) * HEIGHT) / (HEIGHT / 2 - MARGIN)) * REACH;
    return [
      Math.min(99.5, Math.max(0, percent * 100)),
      Math.round(Math.min(REACH, Math.max(-REACH, height)) * 100) / 100,
    ];
  };
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="col-span-4 touch-none rounded-sm border border-base-300"
      role="img"
      aria-label="Drawing of the cycle"
      onDoubleClick={(event) => {
        const [percent, height] = place(event, event.currentTarget);
        if (points.some(([each]) => Math.abs(each - percent) < 2)) return;
        void commit(set([...points, [percent, height] as Point].sort((a, b) => a[0] - b[0])));
      }}
      onPointerMove={(event) => {
        const index = drag.current;
        if (index === null) return;
        const [percent, height] = place(event, event.currentTarget);
        const low = (points[index - 1]?.[0] ?? -1) + 1;
        const high = (points[index + 1]?.[0] ?? 100.5) - 1;
        const next = points.map((each, i) =>
          i === index ? ([Math.min(high, Math.max(low, percent)), height] as Point) : each,
        );
        setLive(next);
        preview(set(next));
      }}
      onPointerUp={() => {
        drag.current = null;
        if (live) void commit(set(live)).then(() => setLive(null));
      }}
      onPointerCancel={() => {
        drag.current = null;
        setLive(null);
        cancelPreview();
      }}
    >
      <line x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--color-base-300)" />
      <polyline
        points={[...points, [100 + (points[0]?.[0] ?? 0), points[0]?.[1] ?? 0]]
          .map(([x = 0, y = 0]) => `${toX(x)},${toY(y)}`)
          .join(" ")}
        fill="none"
        stroke="var(--graphite)"
        strokeDasharray="3 3"
      />
      {points.map(([x, y], index) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: a point is dragged; the layer has keyboard fields beside it
        <circle
          key={index}
          cx={toX(x)}
          cy={toY(y)}
          r={5}
          className="cursor-move fill-base-100 stroke-2 stroke-primary"
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
            drag.current = index;
          }}
          onDoubleClick={(event) => {
            event.stopPropagation();
            if (points.length > 2) void commit(set(points.filter((_, i) => i !== index)));
          }}
        />
      ))}
    </svg>
  );
}
