import { useStore } from "zustand";
import type { Clip, Command, Lane, Readings, Span } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { timeScale } from "../../shared/timeScale";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";
import { DragNote } from "./DragNote";

type Fade = { earlier: Clip; later: Clip; from: number; to: number };

/** Transition between two clips of a lane: an overlap, or a cut. */
function fadesOf(lane: Lane, readings: Readings | null): Fade[] {
  const spans = new Map<string, Span>(readings?.clips.map(({ clip, span }) => [clip, span]));
  const placed = lane.clips
    .flatMap((clip) => {
      const span = spans.get(clip.id);
      return span ? [{ clip, span }] : [];
    })
    .sort((a, b) => a.span.first_frame - b.span.first_frame);
  return placed.slice(1).flatMap(({ clip: later, span }, n) => {
    const before = placed[n];
    if (!before || span.first_frame > before.span.last_frame + 1 || before.span.last_frame > span.last_frame) return [];
    return [{ earlier: before.clip, later, from: span.first_frame, to: before.span.last_frame }];
  });
}

/** Sizes of the sign and of the hit area. */
const SIGN_PX = 14;
const GRIP_PX = 24;

/** A grip in each cross-fade: it moves the end of the one clip and the start of the next together. */
export function FadeGrips({ lane, width, height }: { lane: Lane; width: number; height: number }) {
  const window = useStore(view, (state) => state.window);
  const readings = useStore(motion, (state) => state.readings);
  const x = timeScale(window, width);
  const command = (by: number, { earlier, later }: Fade): Command => ({
    type: "move_fade",
    earlier: earlier.id,
    later: later.id,
    by_frames: by,
  });
  const { bind, live } = useTrialDrag<Fade, number>({
    live: ({ dx }) => Math.round(x.invert(dx) - x.invert(0)) || null,
    command,
  });
  return fadesOf(lane, readings).map((fade) => {
    const { earlier, later, from, to } = fade;
    const middle = x((from + to) / 2);
    if (middle < 0 || middle > width) return null;
    const title = `Cross-fade of ${earlier.name} and ${later.name}`;
    const by = live?.what.later.id === later.id ? live.value : null;
    return (
      <div key={later.id}>
        <button
          type="button"
          data-fade={later.id}
          aria-label={title}
          title={`${title}, frames ${Math.round(from)}–${Math.round(to)}: drag to move both`}
          className="absolute z-[6] group grid -translate-x-1/2 cursor-ew-resize touch-none place-items-center text-primary"
          style={{ left: middle, top: (height - GRIP_PX) / 2, width: GRIP_PX, height: GRIP_PX }}
          {...bind(fade)}
          onClick={keepArrows}
          onKeyDown={(event) => byArrows(event, (frames) => void commit(command(frames, fade)))}
        >
          <span
            className="grid place-items-center rounded-full border border-primary bg-base-100 group-hover:bg-(--wash)"
            style={{ width: SIGN_PX, height: SIGN_PX }}
          >
            <svg width="8" height="8" viewBox="0 0 8 8" aria-hidden="true" className="stroke-current" strokeWidth="1.4">
              <path d="M0 8L8 0M0 0L8 8" />
            </svg>
          </span>
        </button>
        {by !== null && (
          <DragNote left={Math.min(middle + GRIP_PX, width - 60)} top={2}>{`${by > 0 ? "+" : ""}${by} f`}</DragNote>
        )}
      </div>
    );
  });
}
