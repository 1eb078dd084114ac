import type { Cue } from "../../api/types";
import { byArrows, keepArrows } from "../../shared/byArrows";

type FlagProps = {
  cue: Cue;
  on: boolean;
  left: number;
  hold: Record<string, (event: unknown) => void>;
  /** By keyboard; the pointer selects when it presses. */
  onChoose: () => void;
  /** By so many frames, with the arrow keys. */
  onMove: (frames: number) => void;
};

const FULL_PX = 13;
const MIN_PX = 5;

/** A cue's notched flag: its width is the strength; its name is next to it. */
export function Flag({ cue, on, left, hold, onChoose, onMove }: FlagProps) {
  const cueTitle = cue.name || `cue at frame ${cue.frame}`;
  const wide = Math.max(MIN_PX, Math.min(1.5, Math.sqrt(cue.strength)) * FULL_PX);
  return (
    <button
      type="button"
      data-cue={cue.id}
      aria-pressed={on}
      aria-label={`Cue ${cueTitle}`}
      title={`${cueTitle}, frame ${cue.frame}, strength ${Math.round(cue.strength * 100)} %${cue.place_m || cue.on ? ", with a place in the set" : ""}\ndrag moves, Alt-drag copies, Delete removes`}
      className={`absolute inset-y-0 flex cursor-ew-resize touch-none items-center ${on ? "z-[2] text-primary" : "text-base-content"}`}
      style={{ left: left - 1 }}
      {...hold}
      onClick={(event) => {
        keepArrows(event);
        if (event.detail === 0) onChoose();
      }}
      onKeyDown={(event) => byArrows(event, onMove)}
    >
      <svg width={wide + 2} height="18" aria-hidden="true" className="shrink-0 overflow-visible fill-current">
        <path d={`M0 0H1.6V18H0Z M1.6 1H${wide}L${wide - 3.5} 5.5L${wide} 10H1.6Z`} fillOpacity={on ? 1 : 0.8} />
        {(cue.place_m || cue.on) && <circle cx={wide / 2} cy="5.5" r="1.5" className="fill-base-100" />}
      </svg>
      {cue.name && <span className="cond max-w-24 truncate pl-0.5 text-[11px]">{cue.name}</span>}
    </button>
  );
}
