import { useRef, useState } from "react";
import { useStore } from "zustand";
import type { Command, Layer } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { cancelPreview, commit, preview } from "../../stores/session";
import { view } from "../../stores/view";
import { toWeight, toY } from "./hullGeometry";

/** Points of the selected layer's weight on its hull: dragged; double-click adds one, or deletes it. */
export function Hull({ layer, width, height }: { layer: Layer; width: number; height: number }) {
  const window = useStore(view, (state) => state.window);
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
      className="absolute inset-0"
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
      {keys.map((key) => {
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
