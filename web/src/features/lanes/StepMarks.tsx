import { useStore } from "zustand";
import type { Command, Layer, StepMark } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { targetWidths } from "../../shared/targetWidths";
import { timeScale } from "../../shared/timeScale";
import { useReached } from "../../shared/useReached";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { view } from "../../stores/view";

const MAX_MARKS = 300;
const EDGE_PX = 4;
const MIN_PX = 8;
/** Frames per arrow key. */
const STEP = 0.25;
const NONE: StepMark[] = [];

/** The steps of a gait on its row: drag one to move it, Alt-click to leave it out or take it in again. */
export function StepMarks({ layer, width, height }: { layer: Layer; width: number; height: number }) {
  const window = useStore(view, (state) => state.window);
  const marks = useStore(motion, (state) => state.readings?.steps[layer.id] ?? NONE);
  const x = timeScale(window, width);
  const reached = useReached<number>();
  const mute = ({ number, mute: muted }: StepMark) =>
    void commit({ type: "mute_steps", layer: layer.id, numbers: [number], mute: !muted });
  const { bind } = useTrialDrag<StepMark, number>({
    press: () => true,
    tap: ({ what, altKey }) => altKey && mute(what),
    live: ({ what, x: to, dx }) => {
      const by = x.invert(to) - x.invert(to - dx);
      return Math.abs(by) < 0.05 ? null : what.frame + by;
    },
    command: (frame, { number }): Command => ({ type: "move_step", layer: layer.id, number, to_frame: frame }),
  });
  const shown = marks.filter(({ frame }) => x(frame) > -EDGE_PX && x(frame) < width + EDGE_PX);
  if (shown.length > MAX_MARKS) return null;
  const widths = targetWidths(
    shown.map(({ frame }) => x(frame)),
    MIN_PX,
  );
  return shown.map((mark, place) => (
    <button
      key={mark.number}
      type="button"
      data-step={mark.number}
      aria-label={`Step ${mark.number} at frame ${mark.frame.toFixed(1)}${mark.mute ? ", muted" : ""}`}
      title={`step ${mark.number}, frame ${mark.frame.toFixed(1)}${mark.moved ? ", moved" : ""}${mark.mute ? ", muted" : ""}\ndrag or arrow keys move it, Alt-click or M mutes or unmutes it`}
      className="absolute z-[6] flex h-4 -translate-x-1/2 cursor-ew-resize touch-none items-end justify-center"
      style={{ left: x(mark.frame), top: height - 16, width: widths[place] }}
      {...bind(mark)}
      onClick={keepArrows}
      onKeyDown={(event) => {
        const move = (by: number) => {
          const to_frame = reached(`${mark.number}`, mark.frame, (from) => from + by * STEP);
          void commit({ type: "move_step", layer: layer.id, number: mark.number, to_frame });
        };
        if (byArrows(event, move) || event.key.toLowerCase() !== "m") return;
        event.stopPropagation();
        mute(mark);
      }}
    >
      <span
        className={`block w-[3px] rounded-t-sm ${mark.mute ? "h-1 border border-base-content bg-transparent" : mark.moved ? "h-2.5 bg-primary" : "h-2 bg-base-content/70"}`}
      />
    </button>
  ));
}
