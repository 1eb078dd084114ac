import { useRef, useState } from "react";
import { useStore } from "zustand";
import type { Command, Shot } from "../../api/types";
import type { TimeScale } from "../../shared/timeScale";
import { cancelPreview, commit, preview } from "../../stores/session";
import { pause, seek } from "../../stores/transport";
import { selectPins, view } from "../../stores/view";
import { type PinKey, pinTitles } from "./moveFrames";

const MOST_PINS = 400;
const DRAG_STARTS_PX = 3;

/** Moves, or with Alt copies, the keys of the selected pins. */
function shifted(pins: Map<number, PinKey[]>, frames: number[], by: number, copy: boolean): Command {
  const keys = frames.flatMap((frame) => (pins.get(frame) ?? []).map(({ at }) => ({ at, frame })));
  return { type: "move_keys", keys, by_frames: by, by_value: 0, copy_keys: copy };
}

/** The pins of the move: click to go there, Shift to select more, drag to move in time, Alt-drag to copy. */
export function MovePins({ shot, x, width }: { shot: Shot; x: TimeScale; width: number }) {
  const selected = useStore(view, (state) => state.pins);
  const [by, setBy] = useState(0);
  const drag = useRef<{ x: number; frames: number[]; copy: boolean; moved: boolean } | null>(null);
  const pins = pinTitles(shot);
  const shown = [...pins].filter(([frame]) => x(frame) >= -6 && x(frame) <= width + 6).slice(0, MOST_PINS);

  const down = (event: React.PointerEvent<HTMLElement>, frame: number) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    const kept = selected.filter((each) => pins.has(each));
    const frames = kept.includes(frame)
      ? more
        ? kept.filter((each) => each !== frame)
        : kept
      : more
        ? [...kept, frame]
        : [frame];
    selectPins(frames);
    pause();
    if (!more) seek(frame);
    drag.current = { x: event.clientX, frames, copy: event.altKey, moved: false };
  };
  const move = (event: React.PointerEvent) => {
    const start = drag.current;
    if (!start) return;
    if (!start.moved && Math.abs(event.clientX - start.x) < DRAG_STARTS_PX) return;
    start.moved = true;
    const frames = Math.round(x.invert(event.clientX) - x.invert(start.x));
    if (frames === by) return;
    setBy(frames);
    if (frames === 0) cancelPreview();
    else preview(shifted(pins, start.frames, frames, start.copy));
  };
  const up = () => {
    const start = drag.current;
    drag.current = null;
    if (start?.moved && by !== 0) {
      void commit(shifted(pins, start.frames, by, start.copy));
      selectPins(start.frames.map((frame) => frame + by));
    }
    setBy(0);
  };

  return shown.map(([frame, keys]) => {
    const on = selected.includes(frame);
    const moving = on && by !== 0 && !drag.current?.copy ? by : 0;
    return (
      <button
        type="button"
        key={frame}
        data-pin={frame}
        aria-pressed={on}
        aria-label={`Key at frame ${frame}: ${keys.map(({ title }) => title).join(", ")}`}
        title={`frame ${frame}: ${keys.map(({ title }) => title).join(", ")}\ndrag moves, Alt-drag copies, Delete deletes`}
        className="absolute top-1 flex w-3.5 -translate-x-1/2 cursor-ew-resize touch-none flex-col items-center"
        style={{ left: x(frame + moving) }}
        onPointerDown={(event) => down(event, frame)}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          drag.current = null;
          setBy(0);
          cancelPreview();
        }}
      >
        <span
          className={`block h-2.5 w-2.5 rounded-full border-2 ${on ? "border-primary bg-primary" : "border-base-content bg-base-100"}`}
        />
        <span className={`block h-3 w-[1.5px] ${on ? "bg-primary" : "bg-base-content"}`} />
      </button>
    );
  });
}
