/** Dragging of the camera in the Set view. */
import { MathUtils, type PerspectiveCamera, Plane, Raycaster, Vector2, Vector3 } from "three";
import type { MoveField, WorldPose } from "../../api/types";
import type { Part } from "../../stores/stage";
import { barePose } from "./poses";
import { type Place, partAt, ringRadius, risen, type Screen, turned } from "./rings";

export type Mode = Part | "turn";

/** The camera and the pointer at the start of the drag. */
export type Grip = {
  mode: Mode;
  place: Place;
  pose: WorldPose;
  /** Point of the floor under the pointer. */
  start: Vector3;
  angle: number;
  /** Rotation or rise so far. */
  by: number;
  /** Pointer position at the last rotation of a ring. */
  at: Vector2;
};

const TURN_DEG = 0.3;
const RING_ANGLE = { pan: 0, tilt: 1, roll: 2 } as const;

/** Fields that each drag mode changes. */
export const FIELDS_OF_MODE: Record<Mode, readonly MoveField[]> = {
  pan: ["pan_deg"],
  tilt: ["tilt_deg"],
  roll: ["roll_deg"],
  turn: ["pan_deg", "tilt_deg"],
  height: ["y_m"],
  floor: ["x_m", "z_m"],
};

function poseNow(): { place: Place; pose: WorldPose } | null {
  const bare = barePose();
  if (!bare) return null;
  const [x = 0, y = 0, z = 0, pan = 0, tilt = 0, roll = 0] = bare.data.subarray(bare.at, bare.at + 6);
  return {
    place: { position: new Vector3(x, y, z), pan: MathUtils.degToRad(pan), tilt: MathUtils.degToRad(tilt) },
    pose: { position: [x, y, z], angles: [pan, tilt, roll] },
  };
}

type Keys = { shiftKey: boolean; altKey: boolean; ctrlKey: boolean };

/** Keys change what dragging the camera itself does. */
function modeOf(part: Part, keys: Keys): Mode {
  if (part !== "floor") return part;
  if (keys.shiftKey) return "height";
  if (keys.altKey) return "turn";
  return keys.ctrlKey ? "roll" : "floor";
}

const ray = new Raycaster();

/** The point of a level at a height under a place on the pane. */
function onLevel({ camera, width, height }: Screen, at: Vector2, y: number): Vector3 | null {
  ray.setFromCamera(new Vector2((at.x / width) * 2 - 1, 1 - (at.y / height) * 2), camera);
  return ray.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), -y), new Vector3());
}

export const screenOf = (pane: Element, camera: PerspectiveCamera): Screen => ({
  camera,
  width: pane.clientWidth,
  height: pane.clientHeight,
});

/** The part of the camera under a place on the pane. */
export function found(screen: Screen, at: Vector2, withRings: boolean) {
  const now = poseNow();
  if (!now) return null;
  const on = partAt(at, now.place, ringRadius(screen.camera, now.place.position, screen.height), screen, withRings);
  return on ? { ...now, ...on } : null;
}

/** Takes hold of what is under a place on the pane. */
export function gripped(screen: Screen, at: Vector2, keys: Keys, withRings: boolean): Grip | null {
  const on = found(screen, at, withRings);
  if (!on) return null;
  const { place, pose, part, angle } = on;
  const start = onLevel(screen, at, place.position.y) ?? place.position.clone();
  return { mode: modeOf(part, keys), place, pose, start, angle, by: 0, at };
}

/** The pose that the pointer has dragged the camera to: `at` on the pane, `moved` since it took hold. */
export function dragged(grip: Grip, screen: Screen, at: Vector2, moved: Vector2): WorldPose {
  const { mode, place, pose } = grip;
  const position: WorldPose["position"] = [...pose.position];
  const angles: WorldPose["angles"] = [...pose.angles];
  if (mode === "turn") {
    angles[0] -= moved.x * TURN_DEG;
    angles[1] -= moved.y * TURN_DEG;
  } else if (mode === "height") {
    grip.by = risen(place, moved, screen);
    position[1] += grip.by;
  } else if (mode === "floor") {
    const hit = onLevel(screen, at, place.position.y);
    position[0] += (hit?.x ?? grip.start.x) - grip.start.x;
    position[2] += (hit?.z ?? grip.start.z) - grip.start.z;
  } else {
    const radius = ringRadius(screen.camera, place.position, screen.height);
    grip.by += turned(mode, place, radius, grip.angle + grip.by, at.clone().sub(grip.at), screen);
    grip.at = at;
    angles[RING_ANGLE[mode]] += MathUtils.radToDeg(grip.by);
  }
  return { position, angles };
}

/** Caption during the drag. */
export function dragCaption({ mode }: Grip, { position, angles }: WorldPose): string {
  if (mode === "height") return `height ${position[1].toFixed(2)} m`;
  if (mode === "floor") return `x ${position[0].toFixed(2)} m, z ${position[2].toFixed(2)} m`;
  if (mode === "turn") return `pan ${angles[0].toFixed(1)}°, tilt ${angles[1].toFixed(1)}°`;
  return `${mode} ${angles[RING_ANGLE[mode]].toFixed(1)}°`;
}
