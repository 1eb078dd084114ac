import { type Chosen, dropChange, follow, moveChange } from "../../acts/following";
import type { HoldFraming, Operator, Shot, Target } from "../../api/types";
import { limitsOf } from "../../shared/fields";
import { NumberField } from "../../shared/number";
import { useObjects } from "../../shared/useObjects";
import { usePausedFrame } from "../../shared/usePausedFrame";

type FollowFormProps = { shot: Shot; at: string; follows: Operator | HoldFraming };

/** What an operator or the hold follows, and from which frames on something else. */
export function FollowForm({ shot, at, follows }: FollowFormProps) {
  const frame = Math.round(usePausedFrame());
  const here = follows.changes.find((each) => each.frame === frame);
  const [least, most] = limitsOf("follow_other.frame");
  return (
    <fieldset className="flex flex-col gap-1 text-xs" aria-label="Follows">
      <div className="flex flex-wrap items-center gap-2">
        <span className="cond">follows</span>
        <TargetChoice shot={shot} at={at} frame={null} target={follows.target} label="Target" />
        <button
          type="button"
          className="btn btn-xs ml-auto"
          aria-label={`Other from frame ${frame}`}
          disabled={Boolean(here)}
          title={
            here ? "Another target is taken at this frame already" : "From this frame on something else is followed"
          }
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
            at={at}
            frame={change.frame}
            target={change.target}
            label={`Target from frame ${change.frame}`}
          />
          <button
            type="button"
            className="btn btn-xs"
            aria-label={`Keep the target at frame ${change.frame}`}
            title="Takes this change of target away"
            onClick={() => dropChange(at, change.frame)}
          >
            ×
          </button>
        </div>
      ))}
    </fieldset>
  );
}

const NOBODY = "";

type TargetChoiceProps = { shot: Shot; at: string; frame: number | null; target: Target; label: string };

/** One target, or the middle of two. */
function TargetChoice({ shot, at, frame, target, label }: TargetChoiceProps) {
  const objects = useObjects(shot.set_id ?? null) ?? [];
  const [first, second] = target.kind === "middle" ? [target.one, target.other] : [target, null];
  const one = choiceOf(first);
  const other = second ? choiceOf(second) : NOBODY;
  const take = (choice: Chosen, and: string) => void follow(at, { frame, choice, other: and === NOBODY ? null : and });
  const options = (
    <>
      <option value="subject">{shot.subject ? shot.subject.name : "the subject"}</option>
      {objects.length > 0 && (
        <optgroup label="objects of the set">
          {objects.map((each) => (
            <option key={each} value={`object:${each}`}>
              {each}
            </option>
          ))}
        </optgroup>
      )}
      <optgroup label="mounts">
        {shot.mounts.map(({ id, name }) => (
          <option key={id} value={`mount:${id}`}>
            {name}
          </option>
        ))}
      </optgroup>
    </>
  );
  const asked = "max-w-28 border-base-300 border-b bg-base-100";
  return (
    <>
      <select aria-label={label} className={asked} value={one} onChange={(event) => take(event.target.value, NOBODY)}>
        {options}
        <option value="point">the point in the middle of the picture</option>
        {first.kind === "point" && !objects.includes(first.object ?? "") && <option value={one}>{first.name}</option>}
      </select>
      {first.kind !== "point" || first.object ? (
        <label className="flex items-center gap-1">
          <span className="cond">and</span>
          <select
            aria-label={`${label}, middle of it and`}
            className={asked}
            value={other}
            onChange={(event) => take(one, event.target.value)}
          >
            <option value={NOBODY}>nothing else</option>
            {options}
          </select>
        </label>
      ) : null}
    </>
  );
}

function choiceOf(target: Exclude<Target, { kind: "middle" }>): string {
  if (target.kind === "mount") return `mount:${target.mount}`;
  if (target.kind === "point") return target.object ? `object:${target.object}` : "point as it is";
  return "subject";
}

function describe(shot: Shot, target: Target): string {
  if (target.kind === "mount") return shot.mounts.find(({ id }) => id === target.mount)?.name ?? target.mount;
  if (target.kind === "point") return target.name;
  if (target.kind === "middle")
    return `the middle of ${describe(shot, target.one)} and ${describe(shot, target.other)}`;
  return shot.subject?.name ?? "the subject";
}
