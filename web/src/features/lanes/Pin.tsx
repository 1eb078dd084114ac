import type { PinKey } from "../../acts/moveFrames";

type PinProps = {
  frame: number;
  keys: PinKey[];
  on: boolean;
  left: number;
  hold: Record<string, (event: unknown) => void>;
  low?: boolean;
};

/** The mark of the keys at a frame. */
export function Pin({ frame, keys, on, left, hold, low }: PinProps) {
  const titles = keys.map(({ title }) => title).join(", ");
  return (
    <button
      type="button"
      data-pin={frame}
      aria-pressed={on}
      aria-label={`Key at frame ${frame}: ${titles}`}
      title={`frame ${frame}: ${titles}\ndrag moves, Alt-drag copies, Delete deletes`}
      className="absolute top-0.5 flex w-3.5 -translate-x-1/2 cursor-ew-resize touch-none flex-col items-center"
      style={{ left }}
      {...hold}
    >
      <span
        className={`block h-2.5 w-2.5 rounded-full border-2 ${on ? "border-primary bg-primary" : "border-base-content bg-base-100"}`}
      />
      <span className={`block ${low ? "h-1.5" : "h-3"} w-[1.5px] ${on ? "bg-primary" : "bg-base-content"}`} />
    </button>
  );
}
