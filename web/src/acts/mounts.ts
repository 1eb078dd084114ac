/** Actions on the mounts of the open shot. */
import { client, explain, Problem, take } from "../api/client";
import type { Command, MountKind, ObjectPoses, Rig, Shot, State } from "../api/types";
import { anglesOf } from "../shared/turns";
import { commit, inTurn } from "../stores/editing";
import { motion, rowOf } from "../stores/motion";
import { complain, note } from "../stores/notes";
import { adopt, openShot } from "../stores/openShot";
import { mountNow } from "../stores/rig";
import { madeBy } from "../stores/selection";
import { serverTables } from "../stores/serverTables";
import { playRange, transport } from "../stores/transport";
import { type CopiedPose, selectMount, view } from "../stores/view";

/** Kinds of mounts, in the order in which they are offered. */
export const KINDS = (serverTables().forms.mount.find(({ field }) => field === "kind")?.choices ?? []) as MountKind[];

const documentNow = (): Shot | null => openShot.getState().state?.document ?? null;

/** Shows what an edit made, the first of several. */
function showMade(state: State): void {
  const newMount = madeBy(state, "mount");
  view.setState({ rigOpen: true });
  if (newMount[0]) selectMount(newMount[0], "rig");
}

/** Puts a mount behind the one that is worked on. */
export function addMount(kind: MountKind): void {
  const mounts = documentNow()?.mounts ?? [];
  const after = mounts.findIndex(({ id }) => id === mountNow()?.id);
  const before = mounts[after + 1]?.id ?? null;
  void commit({ type: "add_mount", kind, before, name: null }, { kept: showMade });
}

export function takeRig(rig: Rig): void {
  void commit({ type: "use_rig", rig }, { kept: showMade });
}

type Baking = Extract<Command, { type: "remove_mount" | "move_mount" | "set_pivot" | "turn_mount" }>;

/** Changes the rig; where only keys on every frame keep the picture, that is offered. */
export function changeRig(command: Baking, kept?: (state: State) => void): Promise<void> {
  return commit(command, {
    kept,
    failed: (error) => {
      const bakes = error instanceof Problem && error.details.bake === true;
      if (!bakes) complain(error);
      else
        note("error", explain(error), {
          title: "Bake every frame",
          run: () => void commit({ ...command, bake: true }, { kept }),
        });
    },
  });
}

export function removeMount(keepPicture: boolean): void {
  const mount = mountNow();
  if (mount) void changeRig({ type: "remove_mount", mount: mount.id, keep_picture: keepPicture, bake: false });
}

export function moveMount(by: number): void {
  const mount = mountNow();
  if (mount) void changeRig({ type: "move_mount", mount: mount.id, by, bake: false });
}

/** Gives a mount something, or takes it off: springs, an operator. */
export function fit(part: "springs" | "operator", on: boolean): void {
  const mount = mountNow();
  if (mount) void commit({ type: "set_values", values: [{ at: `mount:${mount.id}.${part}`, value: on ? {} : null }] });
}

export function holdFraming(on: boolean): void {
  void commit({ type: "set_values", values: [{ at: "shot.hold", value: on ? {} : null }] });
}

/** Gives the lens distortion and breathing, none of either yet, or takes both off. */
export function fitGlass(on: boolean): void {
  void commit({ type: "set_values", values: [{ at: "shot.glass", value: on ? {} : null }] });
}

/** Lets the mount ride along the present path of the subject. */
export function rideOnSubject(mount: string): Promise<void> {
  return commit({ type: "ride_on_subject", mount });
}

/** Lets the mount ride on an object of the set, or takes it off. */
export function rideOn(mount: string, object: string | null): Promise<void> {
  return inTurn(async (state) => {
    const params = { path: { shot: state.slug } };
    const body = { base_revision: state.revision, mount, object };
    adopt(await take<State>(client.POST("/api/shots/{shot}/ride", { params, body })));
  });
}

/** Copies where a mount, or the lens, is just now. */
export function copyPose(mount: string | null): void {
  const array = motion.getState().arrays.get(mount ? `rig:${mount}` : "pose");
  const { frame } = transport.getState();
  if (!array) return;
  const at = rowOf(frame) * array.columns;
  const [x = 0, y = 0, z = 0, ...turn] = array.data.subarray(at, at + array.columns);
  const angles = mount ? anglesOf(turn) : ([turn[0] ?? 0, turn[1] ?? 0, turn[2] ?? 0] as CopiedPose["angles"]);
  const name = documentNow()?.mounts.find(({ id }) => id === mount)?.name ?? "the camera";
  copied({ of: `${name} at frame ${Math.round(frame)}`, position: [x, y, z], angles });
}

/** Copies where the Set view looks from. */
export function copied(pose: CopiedPose): void {
  view.setState({ pose });
  note("info", `Copied: pose of ${pose.of}`);
}

/** Copies where an object of the set is just now. */
export async function copyObject(object: string): Promise<void> {
  const poses = await posesOf(object, 1);
  const [pose] = poses;
  if (pose) copied({ of: object, position: pose.position_m, angles: pose.angles_deg });
}

async function posesOf(object: string, count: number): Promise<ObjectPoses["poses"]> {
  const { state } = openShot.getState();
  if (!state) return [];
  const params = { path: { shot: state.slug } };
  const [first] = playRange();
  const body = { object, frame: count === 1 ? transport.getState().frame : first, count };
  try {
    return (await take<ObjectPoses>(client.POST("/api/shots/{shot}/object-poses", { params, body }))).poses;
  } catch (error) {
    complain(error);
    return [];
  }
}

/** Pastes the copied pose on the mount: here, or on every frame of the stretch. */
export function pastePose(overStretch: boolean): void {
  const mount = mountNow();
  const { pose, keyEveryChange: key } = view.getState();
  if (!mount || !pose) return;
  const [first, last] = playRange();
  const frames = overStretch
    ? Array.from({ length: last - first + 1 }, (_, n) => first + n)
    : [transport.getState().frame];
  const poses = frames.map((frame) => ({ frame, position_m: pose.position, angles_deg: pose.angles }));
  void commit({ type: "paste_pose", mount: mount.id, poses, key });
}

/** Puts the mount where another one, the lens or an object of the set is, on every frame of the stretch. */
export async function follow(source: { mount: string | null } | { object: string }): Promise<void> {
  const mount = mountNow();
  if (!mount) return;
  const [first_frame, last_frame] = playRange();
  if ("mount" in source) {
    void commit({ type: "match_pose", mount: mount.id, like: source.mount, first_frame, last_frame });
    return;
  }
  const poses = await posesOf(source.object, last_frame - first_frame + 1);
  if (poses.length) void commit({ type: "paste_pose", mount: mount.id, poses, key: true });
}
