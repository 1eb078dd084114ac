import type { Command, MoveField, WorldPose } from "../api/types";
import { openShot } from "../stores/openShot";
import { mountId } from "../stores/rig";
import { transport } from "../stores/transport";
import { view } from "../stores/view";
import { FIELDS } from "./moving";

/** Puts the lens at a pose. In a rig of one mount only the numbers that are meant change; in a longer one any may have to. */
export function placeLens(
  pose: WorldPose,
  meant: readonly MoveField[] = FIELDS,
): Extract<Command, { type: "place_lens" }> {
  const { locks, keyEveryChange } = view.getState();
  const mount = mountId();
  const alone = openShot.getState().state?.document.mounts.length === 1;
  const locked = FIELDS.filter((field) => locks.includes(field) || (alone && !meant.includes(field)));
  return {
    type: "place_lens",
    frame: transport.getState().frame,
    key: keyEveryChange,
    mount,
    locked,
    position_m: pose.position,
    angles_deg: pose.angles,
  };
}
