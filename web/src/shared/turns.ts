import { Euler, MathUtils, Quaternion } from "three";

/** Pan, tilt, roll in degrees of a quaternion x, y, z, w. */
export function anglesOf([x = 0, y = 0, z = 0, w = 1]: number[]): [number, number, number] {
  const turn = new Euler().setFromQuaternion(new Quaternion(x, y, z, w), "YXZ");
  return [MathUtils.radToDeg(turn.y), MathUtils.radToDeg(turn.x), MathUtils.radToDeg(turn.z)];
}
