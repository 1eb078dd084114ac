/** The rings and the mast about the camera in the Set view: where they are, on the set and on the screen. */
import { MathUtils, type PerspectiveCamera, Vector2, Vector3 } from "three";
import type { Part, Ring } from "../../stores/stage";

export const RINGS: readonly Ring[] = ["pan", "tilt", "roll"];

/** Inks of the axes as they read on the wall. */
export const RING_INKS: Record<Ring | "height", string> = {
  pan: "#c597e3",
  tilt: "#dca066",
  roll: "#5fbdbb",
  height: "#9cc274",
};

/** Radii as shares of the largest, so that the rings do not touch. */
export const RING_SHARE: Record<Ring, number> = { pan: 1, tilt: 0.88, roll: 0.74 };
export const MAST_SHARE = 1.45;

const RADIUS_PX = 62;
const SEGMENTS = 48;
const NEAR_PX = 7;
const KNOB_PX = 10;
const BODY_PX = 20;
const CORE_PX = 9;
/** A ring seen from its edge would turn by leaps; it turns up to a radian in this many pixels. */
const MIN_PX_PER_RAD = 30;
const EPSILON_RAD = 0.01;

export type Place = { position: Vector3; pan: number; tilt: number };

/** Metres that the largest ring measures, so that it keeps its size on the screen. */
export function ringRadius(camera: PerspectiveCamera, position: Vector3, heightPx: number): number {
  const away = camera.position.distanceTo(position);
  return (2 * away * Math.tan(MathUtils.degToRad(camera.fov) / 2) * RADIUS_PX) / Math.max(heightPx, 1);
}

/** Point of a ring; its angle rises as pan, tilt or roll rises. */
export function onRing(ring: Ring, place: Place, radius: number, angle: number, out: Vector3): Vector3 {
  const { position, pan, tilt } = place;
  const r = radius * RING_SHARE[ring];
  const c = Math.cos(angle) * r;
  const s = Math.sin(angle) * r;
  const [sp, cp, st, ct] = [Math.sin(pan), Math.cos(pan), Math.sin(tilt), Math.cos(tilt)];
  if (ring === "pan") out.set(c, 0, -s);
  else if (ring === "tilt") out.set(s * sp, c, s * cp);
  else out.set(c * cp + s * sp * st, s * ct, -c * sp + s * cp * st);
  return out.add(position);
}

const point = new Vector3();

function toScreen(world: Vector3, camera: PerspectiveCamera, width: number, height: number, out: Vector2): Vector2 {
  point.copy(world).project(camera);
  return out.set(((point.x + 1) / 2) * width, ((1 - point.y) / 2) * height);
}

export type Screen = { camera: PerspectiveCamera; width: number; height: number };

/** The part under the pointer, with the angle on a ring. The middle of the camera goes before rings that cross it, its rest after them. */
export function partAt(
  pointer: Vector2,
  place: Place,
  radius: number,
  screen: Screen,
  withRings: boolean,
): { part: Part; angle: number } | null {
  const { camera, width, height } = screen;
  const world = new Vector3();
  const at = new Vector2();
  const off = toScreen(place.position, camera, width, height, at).distanceTo(pointer);
  const body = off < BODY_PX ? { part: "floor" as const, angle: 0 } : null;
  if (!withRings || off < CORE_PX) return body;
  world.copy(place.position).setY(place.position.y + radius * MAST_SHARE);
  if (toScreen(world, camera, width, height, at).distanceTo(pointer) < KNOB_PX) return { part: "height", angle: 0 };
  let best: { part: Part; angle: number; distance: number } | null = null;
  for (const ring of RINGS) {
    for (let i = 0; i < SEGMENTS * 2; i++) {
      const angle = (i / (SEGMENTS * 2)) * 2 * Math.PI;
      const distance = toScreen(onRing(ring, place, radius, angle, world), camera, width, height, at).distanceTo(
        pointer,
      );
      if (distance < NEAR_PX && (!best || distance < best.distance)) best = { part: ring, angle, distance };
    }
  }
  return best ?? body;
}

/** Rotation of a ring, in radians, for a pointer movement in pixels at an angle of the ring. */
export function turned(
  ring: Ring,
  place: Place,
  radius: number,
  angle: number,
  moved: Vector2,
  screen: Screen,
): number {
  const { camera, width, height } = screen;
  const world = new Vector3();
  const after = toScreen(onRing(ring, place, radius, angle + EPSILON_RAD, world), camera, width, height, new Vector2());
  const before = toScreen(
    onRing(ring, place, radius, angle - EPSILON_RAD, world),
    camera,
    width,
    height,
    new Vector2(),
  );
  const along = after.sub(before).divideScalar(2 * EPSILON_RAD);
  const length = Math.max(along.length(), MIN_PX_PER_RAD);
  return moved.dot(along.normalize()) / length;
}

/** Rise of the camera, in meters, for a pointer movement in pixels. */
export function risen(place: Place, moved: Vector2, screen: Screen): number {
  const { camera, width, height } = screen;
  const foot = toScreen(place.position, camera, width, height, new Vector2());
  const up = new Vector3().copy(place.position).setY(place.position.y + 0.5);
  const along = toScreen(up, camera, width, height, new Vector2()).sub(foot).divideScalar(0.5);
  const length = Math.max(along.length(), MIN_PX_PER_RAD);
  return moved.dot(along.normalize()) / length;
}
