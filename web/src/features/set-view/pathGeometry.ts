/** The path as a flat ribbon, the shaken lens as a line. */
import { BufferAttribute, BufferGeometry } from "three";
import type { MotionArray } from "../../api/motion";

const HALF_WIDTH_M = 0.035;
/** Pins closer together than this cover each other. */
const APART_M = 0.03;
/** A ribbon of more pieces than this is thinned out, without a visible difference. */
const MAX_PIECES = 2000;

/** Lens positions of a pose array, thinned. */
export function positions(array: MotionArray, frames: number): Float32Array {
  const stride = Math.max(1, Math.ceil(frames / MAX_PIECES));
  const count = Math.floor((frames - 1) / stride) + 1;
  const out = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    const at = i * stride * array.columns;
    for (let axis = 0; axis < 3; axis++) out[i * 3 + axis] = array.data[at + axis] ?? 0;
  }
  return out;
}

/** Pins along a path that are far enough apart. `at`: where their poses begin in it. */
export function pinsApart({ data }: MotionArray, at: number[]): number[] {
  const place = (row: number) => [0, 1, 2].map((axis) => data[row + axis] ?? 0) as [number, number, number];
  const out: number[] = [];
  let last: [number, number, number] | null = null;
  for (const row of at) {
    const here = place(row);
    if (last && Math.hypot(here[0] - last[0], here[1] - last[1], here[2] - last[2]) < APART_M) continue;
    out.push(row);
    last = here;
  }
  return out;
}

/** A level ribbon along points. */
export function ribbon(points: Float32Array): BufferGeometry {
  const count = points.length / 3;
  const vertices = new Float32Array(count * 6);
  const indices: number[] = [];
  for (let i = 0; i < count; i++) {
    const before = Math.max(0, i - 1) * 3;
    const after = Math.min(count - 1, i + 1) * 3;
    let dx = (points[after] ?? 0) - (points[before] ?? 0);
    let dz = (points[after + 2] ?? 0) - (points[before + 2] ?? 0);
    const length = Math.hypot(dx, dz);
    if (length > 1e-9) {
      dx /= length;
      dz /= length;
    } else {
      dx = 1;
      dz = 0;
    }
    for (const [side, sign] of [1, -1].entries()) {
      const at = i * 6 + side * 3;
      vertices[at] = (points[i * 3] ?? 0) - dz * HALF_WIDTH_M * sign;
      vertices[at + 1] = points[i * 3 + 1] ?? 0;
      vertices[at + 2] = (points[i * 3 + 2] ?? 0) + dx * HALF_WIDTH_M * sign;
    }
    if (i > 0) indices.push(i * 2 - 2, i * 2 - 1, i * 2, i * 2, i * 2 - 1, i * 2 + 1);
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(vertices, 3));
  geometry.setIndex(indices);
  return geometry;
}
