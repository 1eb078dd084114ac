import { useRef, useState } from "react";
import type { Command } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { cancelPreview, commit, preview } from "../../stores/session";
import type { Track } from "./groups";

type Side = "handle_in" | "handle_out";

/** Handles of the selected points: dragging one makes the curve on that side free. */
export function CurveHandles(props: {
  tracks: Track[];
  selected: { at: string; frame: number }[];
  x: TimeScale;
  y: TimeScale;
}) {
  const { tracks, selected, x, y } = props;
  const [live, setLive] = useState<{ id: string; frames: number; value: number } | null>(null);
  const drag = useRef<string | null>(null);
  return tracks.flatMap((track) => {
    if (track.param.state !== "keyed") return [];
    const { keys } = track.param.curve;
    return keys.flatMap((key, index) => {
      if (!selected.some((each) => each.at === track.at && each.frame === key.frame)) return [];
      const before = keys[index - 1];
      const after = keys[index + 1];
      const sides: [Side, number][] = [];
      if (before) sides.push(["handle_in", (before.frame - key.frame) / 3]);
      if (after) sides.push(["handle_out", (after.frame - key.frame) / 3]);
      return sides.map(([side, reach]) => {
        const id = `${track.at}/${key.frame}/${side}`;
        const [frames = reach, value = 0] = live?.id === id ? [live.frames, live.value] : (key[side] ?? []);
        const set = (f: number, v: number): Command =>
          ({ type: "set_handles", at: track.at, frame: key.frame, [side]: [f, v] }) as Command;
        const cx = x(key.frame + frames);
        const cy = y(key.value + value);
        return (
          <g key={id}>
            <line x1={x(key.frame)} y1={y(key.value)} x2={cx} y2={cy} stroke="var(--graphite)" strokeWidth="1" />
            <rect
              data-handle={id}
              x={cx - 3.5}
              y={cy - 3.5}
              width={7}
              height={7}
              fill="var(--color-base-100)"
              stroke="var(--graphite)"
              className="cursor-move"
              onPointerDown={(event) => {
                event.stopPropagation();
                event.currentTarget.setPointerCapture(event.pointerId);
                drag.current = id;
              }}
              onPointerMove={(event) => {
                if (drag.current !== id) return;
                const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
                const f = x.invert(event.clientX - (box?.left ?? 0)) - key.frame;
                const v = y.invert(event.clientY - (box?.top ?? 0)) - key.value;
                const kept = side === "handle_in" ? Math.min(0, f) : Math.max(0, f);
                setLive({ id, frames: kept, value: v });
                preview(set(kept, v));
              }}
              onPointerUp={() => {
                drag.current = null;
                if (live?.id === id) void commit(set(live.frames, live.value)).then(() => setLive(null));
              }}
              onPointerCancel={() => {
                drag.current = null;
                setLive(null);
                cancelPreview();
              }}
            />
          </g>
        );
      });
    });
  });
}
