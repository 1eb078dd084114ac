import { useStore } from "zustand";
import { keysOf } from "../../api/param";
import type { Command, Param } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";
import { paramAt } from "../../shared/paramAt";
import { timeScale } from "../../shared/timeScale";
import type { DragState } from "../../shared/useDragging";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { commit } from "../../stores/editing";
import { view } from "../../stores/view";
import { toWeight, toY } from "./hullGeometry";

/** Change of weight per arrow key. */
const STEP = 0.01;

type Place = { frame: number; weight: number };

/** Arrow keys move a point, Delete deletes it. Each press counts: where the point is by then is looked up when its turn comes. */
function onKey(event: React.KeyboardEvent, at: string, n: number): void {
  const withKey = (make: (keys: { at: string; frame: number }[]) => Command) =>
    void commit(({ document }) => {
      const param = paramAt(document, at);
      const key = param && keysOf(param)[n];
      return key ? make([{ at, frame: key.frame }]) : null;
    });
  const move = (frames: number, up: number) =>
    withKey((keys) => ({ type: "move_keys", keys, by_frames: frames, by_value: up * STEP, copy_keys: false }));
  if (byArrows(event, move) || !["Delete", "Backspace"].includes(event.key)) return;
  event.stopPropagation();
  withKey((keys) => ({ type: "delete_keys", keys }));
}

type HullProps = { at: string; title: string; param: Param; width: number; height: number };

/** Points of a weight or amount on its hull: dragged; double-click adds one, or deletes it. */
export function Hull({ at, title, param, width, height }: HullProps) {
  const window = useStore(view, (state) => state.window);
  const x = timeScale(window, width);
  const keys = keysOf(param);
  const placeAt = (px: number, py: number, svg: Element | null): Place => {
    const box = svg?.getBoundingClientRect();
    return { frame: Math.round(x.invert(px - (box?.left ?? 0))), weight: toWeight(py - (box?.top ?? 0), height) };
  };
  const { bind, live } = useTrialDrag<number, Place>({
    // From where the point is: one above the lane keeps its value when it is only dragged sideways.
    live: ({ what: from, dx, dy }: DragState<number>) => {
      const value = keys.find((each) => each.frame === from)?.value ?? 0;
      const start = toY(value, height);
      const raised = toWeight(start + dy, height) - toWeight(start, height);
      return { frame: Math.round(x.invert(x(from) + dx)), weight: Math.max(0, value + raised) };
    },
    command: ({ frame, weight }, from) => ({
      type: "move_keys",
      keys: [{ at, frame: from }],
      by_frames: frame - from,
      by_value: weight - (keys.find((each) => each.frame === from)?.value ?? 0),
      copy_keys: false,
    }),
  });
  return (
    <svg
      width={width}
      height={height}
      className="absolute inset-0"
      role="group"
      aria-label={`${title} over time`}
      onDoubleClick={(event) => {
        const { frame, weight } = placeAt(event.clientX, event.clientY, event.currentTarget);
        void commit({ type: "set_keys", keys: [{ at, frame, value: weight }] });
      }}
    >
      {keys.map((key, n) => {
        const shown = live?.what === key.frame ? live.value : { frame: key.frame, weight: key.value };
        return (
          <circle
            // By place in the row: a point that arrow keys move stays the one that has the focus.
            key={n}
            tabIndex={0}
            role="button"
            aria-label={`${title} at frame ${key.frame}: arrow keys move it, Delete deletes it`}
            onClick={keepArrows}
            onKeyDown={(event) => onKey(event, at, n)}
            data-weight={key.frame}
            cx={x(shown.frame)}
            cy={toY(shown.weight, height)}
            r={4.5}
            className="cursor-move touch-none fill-base-100 stroke-2 stroke-primary"
            {...bind(key.frame)}
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
