import { dropChange, follow, moveChange } from "../../acts/following";
import type { HoldFraming, Operator, Shot } from "../../api/types";
import { describe, TargetChoice } from "../../parts/TargetChoice";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { usePausedFrame } from "../../shared/usePausedFrame";

const POINT = "the point in the middle of the picture";

type FollowFormProps = { shot: Shot; at: string; follows: Operator | HoldFraming };

/** Target of an operator or the hold, and its changes over time. */
export function FollowForm({ shot, at, follows }: FollowFormProps) {
  const frame = Math.round(usePausedFrame());
  const here = follows.changes.find((each) => each.frame === frame);
  const [least, most] = limitsOf("follow_other.frame");
  return (
    <fieldset className="flex flex-col gap-1 text-xs" aria-label="Follows">
      <div className="flex flex-wrap items-center gap-2">
        <span className="cond">follows</span>
        <TargetChoice
          shot={shot}
          target={follows.target}
          label="Target"
          point={POINT}
          onTake={(asked) => void follow(at, { frame: null, ...asked })}
        />
        <button
          type="button"
          className="btn btn-xs ml-auto"
          aria-label={`Other from frame ${frame}`}
          disabled={Boolean(here)}
          title={here ? "Another target starts at this frame" : "From this frame on, follows another target"}
          onClick={() => void follow(at, { frame, choice: "point", other: null })}
        >
          + from {frame}
        </button>
      </div>
      {follows.changes.map((change) => (
        <div key={change.frame} className="flex flex-wrap items-center gap-2">
          <span className="cond">from</span>
          <NumberField
            label={`Frame from which ${describe(shot, change.target)} is followed`}
            value={change.frame}
            unit="f"
            step={0.2}
            least={least}
            most={most}
            digits={0}
            className="border-base-300 border-b"
            onCommit={(to) => moveChange(at, change.frame, Math.round(to))}
          />
          <TargetChoice
            shot={shot}
            target={change.target}
            label={`Target from frame ${change.frame}`}
            point={POINT}
            onTake={(asked) => void follow(at, { frame: change.frame, ...asked })}
          />
          <button
            type="button"
            className="btn btn-xs"
            aria-label={`Keep the target at frame ${change.frame}`}
            title="Removes this target change"
            onClick={() => dropChange(at, change.frame)}
          >
            ×
          </button>
        </div>
      ))}
    </fieldset>
  );
}
