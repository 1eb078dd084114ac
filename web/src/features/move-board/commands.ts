import type { Command, Shot } from "../../api/types";
import { commit, session } from "../../stores/session";
import { transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { pinTitles } from "../lanes";

export type Mount = Shot["mounts"][number];

/** The part of the rig that is worked on: the one chosen, else the last. */
export function workMount(shot: Shot, chosen = view.getState().mount): Mount | undefined {
  return shot.mounts.find((mount) => mount.id === chosen) ?? shot.mounts.at(-1);
}

export const FIELDS = ["x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"] as const;
export type MoveField = (typeof FIELDS)[number] | "focal_mm";

/** Sets a number of the move at the present frame. */
export function moveCommand(field: MoveField, value: number): Command {
  return {
    type: "set_move",
    frame: transport.getState().frame,
    values: { [field]: value },
    key: view.getState().autoKey,
    mount: view.getState().mount,
  };
}

/** Address of a number of the move. */
export function addressOf(shot: Shot, field: MoveField): string {
  return field === "focal_mm" ? "shot.focal_mm" : `mount:${workMount(shot)?.id ?? ""}.${field}`;
}

/** Sets a key on all axes of the move at the present frame. */
export function keyHere(): void {
  const { state } = session.getState();
  const { frame } = transport.getState();
  if (state)
    void commit({ type: "set_keys", keys: FIELDS.map((field) => ({ at: addressOf(state.document, field), frame })) });
}

/** The keys behind pins at some frames, or all of the move's. */
export function keysAt(shot: Shot, frames: number[] | null): { at: string; frame: number }[] {
  const pins = pinTitles(shot);
  return [...pins.entries()]
    .filter(([frame]) => frames === null || frames.includes(frame))
    .flatMap(([frame, found]) => found.map(({ at }) => ({ at, frame })));
}
