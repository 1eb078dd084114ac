import type { Command } from "../../api/types";
import { session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";

export type Field = "x_m" | "y_m" | "z_m" | "pan_deg" | "tilt_deg" | "roll_deg";

const FIELDS: readonly Field[] = ["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"];

export type WorldPose = { position: [number, number, number]; angles: [number, number, number] };

/** Puts the lens at a pose. In a rig of one mount only the numbers that are meant change; in a longer one any may have to. */
export function placeLens(pose: WorldPose, meant: readonly Field[] = FIELDS): Command {
  const { locks, autoKey, mount } = view.getState();
  const alone = session.getState().state?.document.mounts.length === 1;
  const locked = FIELDS.filter((field) => locks.includes(field) || (alone && !meant.includes(field)));
  return {
    type: "place_lens",
    frame: transport.getState().frame,
    key: autoKey,
    mount,
    locked,
    position_m: pose.position,
    angles_deg: pose.angles,
  };
}
