import { ownLane, toLane } from "../../acts/clips";
import type { Lane } from "../../api/types";

const OWN = "a new lane";

/** The lane of the clip: another one, or a new one. */
export function LaneChoice({ lanes, lane }: { lanes: Lane[]; lane: Lane }) {
  return (
    <label className="flex min-w-0 flex-col">
      <span className="cond text-(--graphite) text-xs">lane</span>
      <select
        className="cond w-full border-base-300 border-b bg-base-100 text-[13px]"
        aria-label="Lane of the clip"
        value={lane.id}
        onChange={(event) => (event.target.value === OWN ? ownLane() : toLane(event.target.value))}
      >
        {lanes.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        {lane.clips.length > 1 && <option value={OWN}>{OWN}</option>}
      </select>
    </label>
  );
}
