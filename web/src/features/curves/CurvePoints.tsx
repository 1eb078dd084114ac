import { useEffect, useRef, useState } from "react";
import type { Command } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { cancelPreview, commit, preview } from "../../stores/session";
import { CurveHandles } from "./CurveHandles";
import type { GroupProps } from "./groups";

type Ref = { at: string; frame: number };
type Drag = { x: number; y: number; keys: Ref[]; moved: boolean } | null;

const same = (a: Ref, b: Ref) => a.at === b.at && a.frame === b.frame;

/** The points: click selects, Shift adds, dragging moves all selected ones on whole frames, a frame drawn around them selects. */
export function CurvePoints(props: GroupProps & { x: TimeScale; y: TimeScale; height: number }) {
  const { tracks, unit, times, x, y, width, height } = props;
  const [selected, setSelected] = useState<Ref[]>([]);
  const [shift, setShift] = useState({ frames: 0, value: 0 });
  const [frame, setFrame] = useState<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
  const drag = useRef<Drag>(null);
  const points = tracks.flatMap((track) =>
    track.param.state === "keyed"
      ? track.param.curve.keys.map((key) => ({ track, key, ref: { at: track.at, frame: key.frame } }))
      : [],
  );
  const moved = (keys: Ref[], by: typeof shift): Command => ({
    type: "move_keys",
    keys,
    by_frames: by.frames,
    by_value: by.value,
    copy_keys: false,
  });

  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && /^(INPUT|SELECT|TEXTAREA)$/.test(event.target.tagName);
      if (typing || !["Delete", "Backspace"].includes(event.key) || selected.length === 0) return;
      event.stopPropagation();
      void commit({ type: "delete_keys", keys: selected });
      setSelected([]);
    };
    window.addEventListener("keydown", down, { capture: true });
    return () => window.removeEventListener("keydown", down, { capture: true });
  }, [selected]);

  const place = (event: React.PointerEvent) => {
    const box = (event.currentTarget as SVGElement).ownerSVGElement?.getBoundingClientRect();
    return { px: event.clientX - (box?.left ?? 0), py: event.clientY - (box?.top ?? 0) };
  };

  return (
    <g>
      <rect
        width={width}
        height={height}
        fill="transparent"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const { px, py } = place(event);
          setFrame({ x0: px, y0: py, x1: px, y1: py });
        }}
        onPointerMove={(event) => {
          if (!frame) return;
          const { px, py } = place(event);
          setFrame({ ...frame, x1: px, y1: py });
        }}
        onPointerUp={(event) => {
          if (!frame) return;
          const [left, right] = [Math.min(frame.x0, frame.x1), Math.max(frame.x0, frame.x1)];
          const [top, bottom] = [Math.min(frame.y0, frame.y1), Math.max(frame.y0, frame.y1)];
          const inside = points.filter(
            ({ key }) => x(key.frame) >= left && x(key.frame) <= right && y(key.value) >= top && y(key.value) <= bottom,
          );
          setSelected([...(event.shiftKey ? selected : []), ...inside.map(({ ref }) => ref)]);
          setFrame(null);
        }}
      />
      {frame && (
        <rect
          x={Math.min(frame.x0, frame.x1)}
          y={Math.min(frame.y0, frame.y1)}
          width={Math.abs(frame.x1 - frame.x0)}
          height={Math.abs(frame.y1 - frame.y0)}
          fill="var(--wash)"
          fillOpacity="0.5"
          stroke="var(--color-primary)"
          pointerEvents="none"
        />
      )}
      {shift.frames === 0 && shift.value === 0 && <CurveHandles tracks={tracks} selected={selected} x={x} y={y} />}
      {points.map(({ track, key, ref }) => {
        const on = selected.some((each) => same(each, ref));
        return (
          <circle
            key={`${ref.at}/${ref.frame}`}
            data-point={`${track.title}/${key.frame}`}
            cx={x(key.frame + (on ? shift.frames : 0))}
            cy={y(key.value + (on ? shift.value : 0))}
            r={4.5}
            fill={on ? "var(--color-primary)" : "var(--color-base-100)"}
            stroke={on ? "var(--color-primary)" : `var(--ink-${track.ink})`}
            strokeWidth={2}
            className="cursor-move"
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              const keys = on ? selected : event.shiftKey ? [...selected, ref] : [ref];
              setSelected(keys);
              drag.current = { x: event.clientX, y: event.clientY, keys, moved: false };
            }}
            onPointerMove={(event) => {
              const start = drag.current;
              if (!start) return;
              const by = {
                frames: Math.round(x.invert(event.clientX) - x.invert(start.x)),
                value: event.altKey ? 0 : y.invert(event.clientY) - y.invert(start.y),
              };
              start.moved ||= Math.hypot(event.clientX - start.x, event.clientY - start.y) > 3;
              if (!start.moved) return;
              setShift(by);
              preview(moved(start.keys, by));
            }}
            onPointerUp={() => {
              const start = drag.current;
              drag.current = null;
              if (!start?.moved) return;
              void commit(moved(start.keys, shift)).then(() => setShift({ frames: 0, value: 0 }));
              setSelected(start.keys.map((each) => ({ ...each, frame: each.frame + shift.frames })));
            }}
            onPointerCancel={() => {
              drag.current = null;
              setShift({ frames: 0, value: 0 });
              cancelPreview();
            }}
          >
            <title>{`${track.title}, frame ${key.frame}: ${Number((key.value * times).toFixed(4))} ${unit}, ${key.interp}. Alt keeps the value`}</title>
          </circle>
        );
      })}
    </g>
  );
}
