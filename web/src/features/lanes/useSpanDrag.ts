import { useStore } from "zustand";
import type { Command, Span } from "../../api/types";
import { timeScale } from "../../shared/timeScale";
import { useReached } from "../../shared/useReached";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export type SpanPart = "start" | "end" | "in" | "out" | "all";

const SNAP_PX = 5;
const FAR_FRAMES = 10;

type SetSpan = Extract<Command, { type: "set_span" }>;

const spanned = (at: string[], change: Partial<SetSpan>): SetSpan => ({
  type: "set_span",
  at,
  by_frames: 0,
  whole: false,
  ...change,
});

/** The command that takes a part of a span to a frame. */
function moved(at: string[], part: SpanPart, frame: number, from: number): SetSpan {
  if (part === "start") return spanned(at, { first_frame: frame });
  if (part === "end") return spanned(at, { last_frame: frame });
  if (part === "in") return spanned(at, { ramp_in_until: frame });
  if (part === "out") return spanned(at, { ramp_out_from: frame });
  return spanned(at, { by_frames: frame - from });
}

/** Positions of the parts of a span. */
export function placesOf(span: Span): Record<SpanPart, number> {
  const { first_frame: start, last_frame: end, ramp_in_frames: into, ramp_out_frames: out } = span;
  return { start, end, in: start + into, out: end - out, all: start };
}

/** Dragging the ends, ramps or the whole of a span; it snaps to the playhead. The server resolves conflicts: `span` follows. */
export function useSpanDrag(at: () => string[], span: Span, width: number) {
  const window = useStore(view, (state) => state.window);
  const x = timeScale(window, width);
  const places = placesOf(span);
  const reached = useReached<number>();
  const snapped = (frame: number): number => {
    const now = transport.getState().frame;
    return Math.abs(x(now) - x(frame)) < SNAP_PX ? now : Math.round(frame);
  };
  const { bind, live } = useTrialDrag<{ part: SpanPart; from: number }, number>({
    live: ({ what: { from }, dx }) => {
      const frame = snapped(x.invert(x(from) + dx));
      return frame === from ? null : frame;
    },
    command: (frame, { part, from }) => moved(at(), part, frame, from),
  });
  const grip = (part: SpanPart) => ({
    ...bind({ part, from: places[part] }),
    onKeyDown: (event: React.KeyboardEvent) => {
      const sign = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (!sign) return;
      event.preventDefault();
      event.stopPropagation();
      const by = sign * (event.shiftKey ? FAR_FRAMES : 1);
      if (part === "all") {
        void commit(spanned(at(), { by_frames: by }));
        return;
      }
      const to = reached(part, places[part], (from) => from + by);
      void commit(moved(at(), part, to, places[part]));
    },
    // Only who came here by keyboard means the grip with the arrow keys.
    onClick: (event: React.MouseEvent<HTMLElement>) => event.detail > 0 && event.currentTarget.blur(),
    onDoubleClick: (event: React.MouseEvent) => {
      event.stopPropagation();
      if (part === "in") void commit(spanned(at(), { ramp_in_frames: 0 }));
      else if (part === "out") void commit(spanned(at(), { ramp_out_frames: 0 }));
      else void commit(spanned(at(), { whole: true }));
    },
  });
  const dragged = live && { part: live.what.part, frame: live.value, by: live.value - live.what.from };
  return { x, grip, places, dragged };
}
