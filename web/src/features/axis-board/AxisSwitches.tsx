import { Dices, Lock, LockOpen } from "lucide-react";
import type { AxisName } from "../../api/types";
import { AXIS_TITLES } from "../../shared/axes";
import { commit } from "../../stores/editing";
import { touched } from "./touched";

const SMALL = "btn btn-ghost btn-xs h-6 w-6 p-0";

/** A new random start, and the lock. */
export function AxisSwitches(props: { layer: string; axis: AxisName; locked: boolean; onLock: () => void }) {
  const { layer, axis, locked, onLock } = props;
  return (
    <span className="flex justify-end">
      <button
        type="button"
        className={SMALL}
        disabled={locked}
        aria-label={`New seed of ${AXIS_TITLES[axis]}`}
        title={`New seed of ${AXIS_TITLES[axis]}`}
        onClick={() => void commit({ type: "new_seeds", layers: [layer], axes: touched(axis) })}
      >
        <Dices size={12} />
      </button>
      <button
        type="button"
        className={SMALL}
        aria-pressed={locked}
        aria-label={`Lock ${AXIS_TITLES[axis]}`}
        title={locked ? `Unlock ${AXIS_TITLES[axis]}` : `Lock ${AXIS_TITLES[axis]}`}
        onClick={onLock}
      >
        {locked ? <Lock size={12} /> : <LockOpen size={12} className="opacity-50" />}
      </button>
    </span>
  );
}
