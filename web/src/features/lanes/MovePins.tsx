import { useStore } from "zustand";
import { type PinKey, pinTitles } from "../../acts/moveFrames";
import { nudge } from "../../acts/pins";
import type { Command, Shot } from "../../api/types";
import { dotPath } from "../../shared/dotPath";
import { targetWidths } from "../../shared/targetWidths";
import { thinned } from "../../shared/thinned";
import type { TimeScale } from "../../shared/timeScale";
import type { DragState } from "../../shared/useDragging";
import { useReached } from "../../shared/useReached";
import { useResting } from "../../shared/useResting";
import { useShownShot } from "../../shared/useShownShot";
import { useTrialDrag } from "../../shared/useTrialDrag";
import { pressed } from "../../stores/pressed";
import { pause, seek } from "../../stores/transport";
import { selectPins, view } from "../../stores/view";
import { Pin } from "./Pin";

/** Keys that are closer together are drawn as one; zoom in to separate them. */
const APART_PX = 7;
const MAX_CHOSEN = 50;
const EDGE_PX = 6;
const MIN_PX = 10;
/** Up to this many can be dragged while the time is zoomed. */
const FEW = 40;

const NONE: number[] = [];

type MovePinsProps = {
  shot: Shot;
  x: TimeScale;
  width: number;
  /** Only the pins of this mount. */
  mount?: string | null;
  /** In a low row. */
  low?: boolean;
};

type Shift = { frames: number[]; by: number; copy: boolean };

/** Moves, or with Alt copies, the keys of some pins. */
function shifted(pins: Map<number, PinKey[]>, { frames, by, copy }: Shift): Command {
  const keys = frames.flatMap((frame) => (pins.get(frame) ?? []).map(({ at }) => ({ at, frame })));
  return { type: "move_keys", keys, by_frames: by, by_value: 0, copy_keys: copy };
}

/** Pins that are pressed, and dragged with all that are selected. */
function usePinDrag(pins: Map<number, PinKey[]>, selected: number[], mount: string | null, x: TimeScale) {
  return useTrialDrag<number, Shift>({
    press: ({ what: frame, shiftKey, ctrlKey }: DragState<number>) => {
      const more = shiftKey || ctrlKey;
      selectPins(
        pressed(
          frame,
          selected.filter((each) => pins.has(each)),
          more,
        ),
        mount,
      );
      pause();
      if (!more) seek(frame);
      return true;
    },
    live: ({ x: to, dx, altKey }) => {
      const by = Math.round(x.invert(to) - x.invert(to - dx));
      return by === 0 ? null : { frames: view.getState().pins, by, copy: altKey };
    },
    command: (shift) => shifted(pins, shift),
    dropped: ({ frames, by }) =>
      selectPins(
        frames.map((frame) => frame + by),
        mount,
      ),
  });
}

/** The pins of the move, or of one mount: click to go there, Shift to select more, drag to move in time, Alt-drag to copy. */
export function MovePins({ shot: kept, x, width, mount = null, low }: MovePinsProps) {
  const { shot = kept, tried } = useShownShot();
  const selected = useStore(view, (state) => (state.pinsOf === mount ? state.pins : NONE));
  const pins = pinTitles(shot, mount);
  const inView = (frame: number) => x(frame) >= -EDGE_PX && x(frame) <= width + EDGE_PX;
  const { bind, live } = usePinDrag(pins, selected, mount, x);
  const by = live && !live.value.copy ? live.value.by : 0;
  const chosen = new Set(selected);
  const reached = useReached<number>();
  /** By arrow keys: from where the press before took it. */
  const move = (n: number, frame: number, by: number) => {
    let from = frame;
    reached(`${n}`, frame, (at) => {
      from = at;
      return at + by;
    });
    if (!view.getState().pins.includes(from)) selectPins([from], mount);
    nudge(by);
  };
  const across = (frame: number) => x(frame + (chosen.has(frame) ? by : 0));
  const shown = thinned(
    [...pins].map(([frame, keys], n) => ({ frame, keys, n })).filter(({ frame }) => inView(frame)),
    ({ frame }) => x(frame),
    APART_PX,
    // Many selected ones are shown by their neighbours.
    ({ frame }) => chosen.size < MAX_CHOSEN && chosen.has(frame),
  );
  const passing = !useResting(`${x(0)} ${x(1)}`) && shown.length > FEW;
  const there = passing ? shown.filter(({ frame }) => chosen.has(frame)) : shown;
  const widths = targetWidths(
    there.map(({ frame }) => across(frame)),
    MIN_PX,
  );
  const heldPins = there.map(({ frame, keys, n }, place) => {
    const on = chosen.has(frame);
    return (
      <Pin
        // By its place among all: one that arrow keys move stays the one that has the focus.
        key={n}
        frame={frame}
        keys={keys}
        on={on}
        left={across(frame)}
        width={widths[place] ?? MIN_PX}
        // A preview cannot be dragged.
        hold={tried ? {} : bind(frame)}
        low={low}
        onMove={(frames) => !tried && move(n, frame, frames)}
      />
    );
  });
  return (
    <>
      {passing && <Marks places={shown.map(({ frame }) => across(frame))} width={width} low={low} />}
      {heldPins}
    </>
  );
}

const HEAD = { y: 7, radius: 4 };

/** All pins as one drawing, while they go by. */
function Marks({ places, width, low }: { places: number[]; width: number; low?: boolean }) {
  const { y, radius } = HEAD;
  const stem = (px: number) => `M${px.toFixed(1)} ${y + radius}v${low ? 6 : 12}`;
  const marks = places.map((px) => dotPath(px, y, radius) + stem(px));
  return (
    <svg width={width} height={24} className="pointer-events-none absolute top-0 left-0" aria-hidden="true">
      <path d={marks.join("")} fill="var(--color-base-100)" stroke="var(--color-base-content)" strokeWidth={1.5} />
    </svg>
  );
}
