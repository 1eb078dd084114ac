import type { Chosen, TargetRequest } from "../acts/targets";
import type { Shot, Target } from "../api/types";
import { useObjects } from "../shared/useObjects";

const NO_TARGET = "";

type TargetChoiceProps = {
  shot: Shot;
  /** Nothing where there is none yet. */
  target: Target | null;
  label: string;
  /** Label of the point choice. */
  point: string;
  /** Label of the empty choice, where it is allowed. */
  nothing?: string;
  onTake: (asked: TargetRequest) => void;
};

/** One target, or the middle of two. */
export function TargetChoice({ shot, target, label, point, nothing, onTake }: TargetChoiceProps) {
  const objects = useObjects(shot.set_id ?? null) ?? [];
  const [first, second] = target?.kind === "middle" ? [target.one, target.other] : [target, null];
  const one = first ? choiceOf(first) : NO_TARGET;
  const other = second ? choiceOf(second) : NO_TARGET;
  const take = (choice: Chosen, and: string) => onTake({ choice, other: and === NO_TARGET ? null : and });
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
  const inputClasses = "max-w-28 border-base-300 border-b bg-base-100";
  return (
    <>
      <select
        aria-label={label}
        className={inputClasses}
        value={one}
        onChange={(event) => take(event.target.value, NO_TARGET)}
      >
        {nothing && <option value={NO_TARGET}>{nothing}</option>}
        {options}
        <option value="point">{point}</option>
        {first?.kind === "point" && !objects.includes(first.object ?? "") && <option value={one}>{first.name}</option>}
      </select>
      {first && (first.kind !== "point" || first.object) ? (
        <label className="flex items-center gap-1">
          <span className="cond">and</span>
          <select
            aria-label={`${label}, middle of it and`}
            className={inputClasses}
            value={other}
            onChange={(event) => take(one, event.target.value)}
          >
            <option value={NO_TARGET}>nothing else</option>
            {options}
          </select>
        </label>
      ) : null}
    </>
  );
}

function choiceOf(target: Exclude<Target, { kind: "middle" }>): string {
  if (target.kind === "mount") return `mount:${target.mount}`;
  if (target.kind === "point") return target.object ? `object:${target.object}` : "keep point";
  return "subject";
}

/** Display name of a target. */
export function describe(shot: Shot, target: Target): string {
  if (target.kind === "mount") return shot.mounts.find(({ id }) => id === target.mount)?.name ?? target.mount;
  if (target.kind === "point") return target.name;
  if (target.kind === "middle")
    return `the middle of ${describe(shot, target.one)} and ${describe(shot, target.other)}`;
  return shot.subject?.name ?? "the subject";
}
