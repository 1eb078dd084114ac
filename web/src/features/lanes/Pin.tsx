import type { PinKey } from "../../acts/moveFrames";
import { byArrows, keepArrows } from "../../shared/byArrows";

type PinProps = {
  frame: number;
  keys: PinKey[];
  on: boolean;
  left: number;
  /** Size of the hit area, in pixels. */
  width: number;
  hold: Record<string, (event: unknown) => void>;
  low?: boolean;
  /** By so many frames, with the arrow keys. */
  onMove: (frames: number) => void;
};

/** The mark of the keys at a frame. */
export function Pin({ frame, keys, on, left, width, hold, low, onMove }: PinProps) {
  const titles = keys.map(({ title }) => title).join(", ");
  return (
    <button
      type="button"
      data-pin={frame}
      aria-pressed={on}
      aria-label={`Key at frame ${frame}: ${titles}`}
      title={`frame ${frame}: ${titles}\ndrag or arrow keys move, Alt-drag copies, Delete deletes`}
      className="absolute top-0 flex h-6 -translate-x-1/2 cursor-ew-resize touch-none flex-col items-center pt-0.5"
      style={{ left, width }}
      {...hold}
      onClick={keepArrows}
      onKeyDown={(event) => byArrows(event, onMove)}
    >
      <span
        className={`block h-2.5 w-2.5 rounded-full border-2 ${on ? "border-primary bg-primary" : "border-base-content bg-base-100"}`}
      />
      <span className={`block ${low ? "h-1.5" : "h-3"} w-[1.5px] ${on ? "bg-primary" : "bg-base-content"}`} />
    </button>
  );
}
