import { useRef, useState } from "react";
import { useStore } from "zustand";
import type { Command, Layer } from "../../api/types";
import { type TimeScale, timeScale } from "../../shared/timeScale";
import { useMotionVersion } from "../../shared/useMotionVersion";
import { motion } from "../../stores/motion";
import { cancelPreview, commit, preview } from "../../stores/session";
import { view } from "../../stores/view";

const MARGIN_PX = 4;
const MOST_STEPS = 400;

/** Height of a weight above the middle: 100 % reaches the edge of the row, more goes on half as fast. */
function toY(weight: number, height: number): number {
  return (
    height / 2 -
    Math.min(weight, 1) * (height / 2 - MARGIN_PX) +
    (weight > 1 ? -Math.min(weight - 1, 0.5) * MARGIN_PX : 0)
  );
}

function toWeight(y: number, height: number): number {
  const weight = (height / 2 - y) / (height / 2 - MARGIN_PX);
  return Math.round(Math.min(1, Math.max(0, weight)) * 100) / 100;
}

/** Outline of a layer's weight over time, as a closed path about the middle of the row. */
function outline(id: string, x: TimeScale, window: [number, number], height: number): string {
  const state = motion.getState();
  const data = state.arrays.get(`weight:${id}`)?.data;
  if (!data) return "";
  const from = Math.max(0, Math.floor(window[0] - state.first));
  const to = Math.min(state.frames - 1, Math.ceil(window[1] - state.first));
  const step = Math.max(1, Math.ceil((to - from) / MOST_STEPS));
  const top: string[] = [];
  const bottom: string[] = [];
  for (let row = from; row <= to; row += step) {
    const y = toY(data[row] ?? 0, height);
    top.push(`${x(state.first + row).toFixed(1)},${y.toFixed(1)}`);
    bottom.push(`${x(state.first + row).toFixed(1)},${(height - y).toFixed(1)}`);
  }
  return `M${top.join("L")}L${bottom.reverse().join("L")}Z`;
}

/** The translucent hull of a layer's weight. On the selected layer its points are dragged; double-click adds one, or deletes it. */
export function Hull({
  layer,
  width,
  height,
  editable,
}: {
  layer: Layer;
  width: number;
  height: number;
  editable: boolean;
}) {
  const window = useStore(view, (state) => state.window);
  useMotionVersion();
  const drag = useRef<{ frame: number; moved: boolean } | null>(null);
  const [live, setLive] = useState<{ from: number; frame: number; weight: number } | null>(null);
  const x = timeScale(window, width);
  const at = `layer:${layer.id}.weight`;
  const keys = layer.weight.state === "keyed" ? layer.weight.curve.keys : [];
  const put = (from: number, frame: number, weight: number): Command => {
    const key = keys.find((each) => each.frame === from);
    return {
      type: "move_keys",
      keys: [{ at, frame: from }],
      by_frames: frame - from,
      by_value: weight - (key?.value ?? 0),
      copy_keys: false,
    };
  };
  const placeOf = (event: React.PointerEvent | React.MouseEvent, svg: SVGSVGElement) => {
    const box = svg.getBoundingClientRect();
    return { frame: Math.round(x.invert(event.clientX - box.left)), weight: toWeight(event.clientY - box.top, height) };
  };
  return (
    <svg
      width={width}
      height={height}
      className={`absolute inset-0 ${editable ? "" : "pointer-events-none"}`}
      role="img"
      aria-label={`Weight of ${layer.name} over time`}
      onDoubleClick={(event) => {
        const { frame, weight } = placeOf(event, event.currentTarget);
        void commit({ type: "set_keys", keys: [{ at, frame, value: weight }] });
      }}
      onPointerMove={(event) => {
        const start = drag.current;
        if (!start) return;
        start.moved = true;
        const next = placeOf(event, event.currentTarget);
        setLive({ from: start.frame, ...next });
        preview(put(start.frame, next.frame, next.weight));
      }}
      onPointerUp={() => {
        if (drag.current?.moved && live) void commit(put(live.from, live.frame, live.weight)).then(() => setLive(null));
        drag.current = null;
      }}
      onPointerCancel={() => {
        drag.current = null;
        setLive(null);
        cancelPreview();
      }}
    >
      <path
        d={outline(layer.id, x, window, height)}
        fill="var(--color-base-300)"
        fillOpacity="0.35"
        stroke="var(--graphite)"
        strokeOpacity="0.5"
      />
      {editable &&
        keys.map((key) => {
          const shown = live?.from === key.frame ? live : { frame: key.frame, weight: key.value };
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: a point of the hull is dragged; the weight has a field on the board
            <circle
              key={key.frame}
              data-weight={key.frame}
              cx={x(shown.frame)}
              cy={toY(shown.weight, height)}
              r={4.5}
              className="cursor-move fill-base-100 stroke-2 stroke-primary"
              onPointerDown={(event) => {
                event.stopPropagation();
                event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
                drag.current = { frame: key.frame, moved: false };
              }}
              onDoubleClick={(event) => {
                event.stopPropagation();
                void commit({ type: "delete_keys", keys: [{ at, frame: key.frame }] });
              }}
            />
          );
        })}
    </svg>
  );
}
