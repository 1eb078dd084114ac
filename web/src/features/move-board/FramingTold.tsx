import { useStore } from "zustand";
import { motion } from "../../stores/motion";
import { pause, seek } from "../../stores/transport";

const MOST_TOLD = 6;

/** How well the subject sits at its place: the largest error, the usual one, how late each turn is, when it is out of the picture. */
export function FramingTold() {
  const told = useStore(motion, (state) => state.readings?.framing ?? null);
  if (!told) return null;
  const go = (frame: number, text: string, hint: string) => (
    <button
      key={`${hint}${frame}`}
      type="button"
      className="num rounded-sm px-1 hover:bg-(--wash)"
      title={`${hint}: go to frame ${Math.round(frame)}`}
      onClick={() => {
        pause();
        seek(Math.round(frame));
      }}
    >
      {text}
    </button>
  );
  return (
    <div className="flex flex-col gap-0.5 text-xs" data-testid="framing">
      <span className="flex flex-wrap items-center gap-x-1">
        <span className="cond text-(--graphite)">off its place by</span>
        {go(told.largest_at, `${told.largest_px.toFixed(0)} px at most`, "Largest error")}
        <span className="num">{told.rms_px.toFixed(0)} px RMS</span>
        {told.reaction_frames !== null && (
          <span className="num text-(--graphite)">
            · reacts after {told.reaction_frames.toFixed(1)} f · steady lag {told.lag_frames?.toFixed(1)} f
          </span>
        )}
      </span>
      {told.turns.length > 0 && (
        <span className="flex flex-wrap items-center">
          <span className="cond text-(--graphite)">turns of the subject, lag</span>
          {told.turns
            .slice(0, MOST_TOLD)
            .map(({ frame, lag_frames }) =>
              go(
                frame,
                `${Math.round(frame)}: ${lag_frames === null ? "not followed" : `${lag_frames.toFixed(1)} f`}`,
                "Change of direction",
              ),
            )}
          {told.turns.length > MOST_TOLD && <span className="num">and {told.turns.length - MOST_TOLD} more</span>}
        </span>
      )}
      {told.outside.length > 0 && (
        <span className="flex flex-wrap items-center">
          <span className="cond text-(--graphite)">out of the picture</span>
          {told.outside
            .slice(0, MOST_TOLD)
            .map(([first, last]) => go(first, `${first}–${last}`, "Subject leaves the picture"))}
        </span>
      )}
    </div>
  );
}
