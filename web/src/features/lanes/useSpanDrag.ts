import { useRef, useState } from "react";
import { useStore } from "zustand";
import type { Command } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { cancelPreview, commit, preview } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export type SpanPart = "start" | "end" | "in" | "out" | "all";

/** What has a span: a layer or a clip. */
export type Spanned = {
  span_frames?: [number, number] | null;
  ramp_in_frames: number;
  ramp_out_frames: number;
};

const SNAP_PX = 5;
const DRAG_STARTS_PX = 3;

/** The command that takes a part of a span to a frame. */
function moved(at: string[], part: SpanPart, span: [number, number], frame: number, by: number): Command {
  const nothing = { first_frame: null, last_frame: null, ramp_in_frames: null, ramp_out_frames: null };
  const base = { type: "set_span" as const, at, ...nothing, by_frames: 0, whole: false };
  if (part === "start") return { ...base, first_frame: frame };
  if (part === "end") return { ...base, last_frame: frame };
  if (part === "in") return { ...base, ramp_in_frames: Math.max(0, frame - span[0]) };
  if (part === "out") return { ...base, ramp_out_frames: Math.max(0, span[1] - frame) };
  return { ...base, by_frames: by };
}

/** Dragging the ends, ramps or the whole of a span; it snaps to the pen line. `live` is where the part is meanwhile. */
export function useSpanDrag(at: () => string[], owner: Spanned, width: number) {
  const window = useStore(view, (state) => state.window);
  const [live, setLive] = useState<{ part: SpanPart; frame: number; by: number } | null>(null);
  const drag = useRef<{ part: SpanPart; from: number; x: number; moved: boolean; frame: number } | null>(null);
  const x = timeScale(window, width);
  const { first, last } = transport.getState();
  const span: [number, number] = owner.span_frames ?? [first, last];

  const place = (part: SpanPart): number => {
    const frames = {
      start: span[0],
      end: span[1],
      in: span[0] + owner.ramp_in_frames,
      out: span[1] - owner.ramp_out_frames,
    };
    return part === "all" ? span[0] : frames[part];
  };
  const snapped = (frame: number): number => {
    const now = transport.getState().frame;
    return Math.abs(x(now) - x(frame)) < SNAP_PX ? now : Math.round(frame);
  };
  const command = (part: SpanPart, frame: number) => moved(at(), part, span, frame, frame - place(part));

  const grip = (part: SpanPart) => ({
    onPointerDown: (event: React.PointerEvent) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { part, from: place(part), x: event.clientX, moved: false, frame: place(part) };
    },
    onPointerMove: (event: React.PointerEvent) => {
      const start = drag.current;
      if (!start || (!start.moved && Math.abs(event.clientX - start.x) < DRAG_STARTS_PX)) return;
      start.moved = true;
      const frame = snapped(x.invert(x(start.from) + event.clientX - start.x));
      if (frame === start.frame) return;
      start.frame = frame;
      setLive({ part, frame, by: frame - start.from });
      preview(command(part, frame));
    },
    onPointerUp: (event: React.PointerEvent<HTMLElement>) => {
      // Only who came here by keyboard means the grip with the arrow keys.
      event.currentTarget.blur();
      const start = drag.current;
      drag.current = null;
      if (start?.moved && start.frame !== start.from) {
        void commit(command(part, start.frame)).finally(() => setLive(null));
        return;
      }
      setLive(null);
      if (start?.moved) cancelPreview();
    },
    onPointerCancel: () => {
      drag.current = null;
      setLive(null);
      cancelPreview();
    },
    onKeyDown: (event: React.KeyboardEvent) => {
      const sign = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (!sign) return;
      event.preventDefault();
      event.stopPropagation();
      void commit(command(part, place(part) + sign * (event.shiftKey ? 10 : 1)));
    },
    onDoubleClick: (event: React.MouseEvent) => {
      event.stopPropagation();
      const none = { first_frame: null, last_frame: null, ramp_in_frames: null, ramp_out_frames: null, by_frames: 0 };
      if (part === "in") void commit({ type: "set_span", at: at(), ...none, ramp_in_frames: 0, whole: false });
      else if (part === "out") void commit({ type: "set_span", at: at(), ...none, ramp_out_frames: 0, whole: false });
      else if (owner.span_frames) void commit({ type: "set_span", at: at(), ...none, whole: true });
    },
  });

  /** Where a part is drawn, with what is being dragged. */
  const shown = (part: SpanPart): number => {
    if (live?.part === part) return live.frame;
    if (live?.part === "all") return place(part) + live.by;
    if (live?.part === "start" && part === "in") return Math.max(place("in"), live.frame);
    if (live?.part === "end" && part === "out") return Math.min(place("out"), live.frame);
    return place(part);
  };
  return { x, grip, shown, dragged: live };
}
