import { useStore } from "zustand";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { commit } from "../../stores/editing";
import { motion } from "../../stores/motion";
import { cancelPreview, preview } from "../../stores/preview";
import { pause, seek } from "../../stores/transport";

const MAX_LISTED = 6;

/** Framing report: the maximum error, the typical one, the delay, and when the subject is out of frame. */
export function FramingReport({ mount }: { mount: string }) {
  const report = useStore(motion, (state) => state.readings?.framing ?? null);
  if (!report) return null;
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
        <span className="cond text-(--graphite)">framing error</span>
        {go(report.largest_at, `peak ${report.largest_px.toFixed(0)} px`, "Largest framing error")}
        <span className="num">{report.rms_px.toFixed(0)} px RMS</span>
        {report.reaction_frames !== null && (
          <span className="flex items-center text-(--graphite)">
            <span className="num">· reaction time {report.reaction_frames.toFixed(1)} f ·</span>
            <Lag mount={mount} frames={report.lag_frames ?? 0} least={report.least_lag_frames ?? 0} />
          </span>
        )}
      </span>
      {report.turns.length > 0 && (
        <span className="flex flex-wrap items-center">
          <span className="cond text-(--graphite)">lag at the subject's turns</span>
          {report.turns
            .slice(0, MAX_LISTED)
            .map(({ frame, lag_frames }) =>
              go(
                frame,
                `${Math.round(frame)}: ${lag_frames === null ? "not followed" : `${lag_frames.toFixed(1)} f`}`,
                "Change of direction",
              ),
            )}
          {report.turns.length > MAX_LISTED && <span className="num">and {report.turns.length - MAX_LISTED} more</span>}
        </span>
      )}
      {report.outside.length > 0 && (
        <span className="flex flex-wrap items-center">
          <span className="cond text-(--graphite)">out of frame</span>
          {report.outside
            .slice(0, MAX_LISTED)
            .map(([first, last]) => go(first, `${first}–${last}`, "Subject leaves the frame"))}
        </span>
      )}
    </div>
  );
}

/** Lag of the picture for a steady subject: dragged, or typed. */
function Lag({ mount, frames, least }: { mount: string; frames: number; least: number }) {
  const [, most] = limitsOf("set_lag.lag_frames");
  const lagCommand = (lag_frames: number) => ({ type: "set_lag" as const, mount, lag_frames });
  return (
    <span
      className="flex items-center"
      title={`Reaction and the camera's own lag keep their ratio; with this anticipation more than ${least.toFixed(1)} f`}
    >
      <span className="cond ml-1">lag</span>
      <NumberField
        label="Steady lag of the operator"
        value={frames}
        unit="f"
        step={0.1}
        least={least}
        most={most}
        digits={1}
        onPreview={(to) => preview(lagCommand(to))}
        onCommit={(to) => commit(lagCommand(to))}
        onCancel={cancelPreview}
      />
    </span>
  );
}
