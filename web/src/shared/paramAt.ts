import type { Param, Shot } from "../api/types";
import { valueAt } from "./fields";

/** The number at an address of a shot, or null when it is gone. */
export function paramAt(shot: Shot, address: string): Param | null {
  const [head = "", ...path] = address.split(".");
  const [kind, id] = head.split(":");
  const clips = shot.lanes.flatMap((lane) => lane.clips);
  const owners: Record<string, unknown> = {
    shot,
    dial: shot.dials.find(({ name }) => name === id),
    mount: shot.mounts.find((mount) => mount.id === id),
    clip: clips.find((clip) => clip.id === id),
    layer: clips.flatMap((clip) => clip.layers).find((layer) => layer.id === id),
  };
  const owner = owners[kind ?? ""];
  const found = owner && valueAt(owner, path.join("."));
  return found && typeof found === "object" && "state" in found ? (found as Param) : null;
}
