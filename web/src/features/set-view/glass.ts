/** Distortion of the picture: each point is sampled from a pinhole drawing. */
import { type PerspectiveCamera, type Scene, Vector3, type WebGLRenderer } from "three";
import { pictureTarget, type Target } from "./passes";
import type { ShownPose } from "./poses";
import { aimAt, type Flat, shownAt, type ViewCrop } from "./viewCrop";

/** k1 and k2, up to where the picture would turn back (r²), what is shown, and what has to be drawn for it. */
export type Bent = { k: [number, number]; turn: number; shown: Flat; drawn: Flat };

const K = 10;
/** Further out than any lens sees. */
const NEVER = 1e4;
const STEPS = 12;
const GRID_SIDE = 16;
/** Additional margin for a border between two of its points. */
const MARGIN = 0.005;
const MAX_SIZES = 4;
const STEP_PX = 64;
/** The plain drawing has up to so many times the pixels of the picture across and up. */
const MAX_WIDER = 2;

/** Distortion at a pose; null where it is straight. */
export function bentAt(pose: ShownPose, seen: ViewCrop): Bent | null {
  const k: [number, number] = [pose.data[pose.at + K] ?? 0, pose.data[pose.at + K + 1] ?? 0];
  if (k[0] === 0 && k[1] === 0) return null;
  const turn = turnBack(k);
  const shown = shownAt(pose, seen);
  return { k, turn, shown, drawn: neededFor(shown, k, turn) };
}

function neededFor({ left, bottom, width, height }: Flat, k: [number, number], turn: number): Flat {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let n = 0; n <= GRID_SIDE; n++)
    for (const [across, up] of [
      [n / GRID_SIDE, 0],
      [n / GRID_SIDE, 1],
      [0, n / GRID_SIDE],
      [1, n / GRID_SIDE],
    ] as const) {
      const [x, y] = plain(left + across * width, bottom + up * height, k, turn);
      xs.push(x);
      ys.push(y);
    }
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const [dx, dy] = [(x1 - x0) * MARGIN, (y1 - y0) * MARGIN];
  return { left: x0 - dx, bottom: y0 - dy, width: x1 - x0 + 2 * dx, height: y1 - y0 + 2 * dy };
}

/** r² where the formula turns back. */
function turnBack([k1, k2]: [number, number]): number {
  const half = 1.5 * k1;
  const under = half * half - 5 * k2;
  const squared = under >= 0 ? 1 / (Math.sqrt(under) - half) : NEVER;
  return squared > 0 && squared < NEVER ? squared : NEVER;
}

/** Pinhole position for a distorted one; `undistorted` in the core. */
function plain(x: number, y: number, [k1, k2]: [number, number], turn: number): [number, number] {
  const radius = Math.hypot(x, y);
  const edge = Math.sqrt(turn);
  const share = 1 + turn * (k1 + turn * k2);
  let r = Math.min(radius, edge);
  for (let n = 0; n < STEPS; n++) {
    const s = r * r;
    const slope = Math.max(1 + s * (3 * k1 + 5 * s * k2), 1e-3);
    r = Math.min(Math.max(r - (r * (1 + s * (k1 + s * k2)) - radius) / slope, 0), edge);
  }
  if (radius > edge * share) r = radius / share;
  const times = radius > 0 ? r / radius : 1;
  return [x * times, y * times];
}

/** The same per pixel: `found()` is the position in the pinhole drawing. */
const LOOK_UP = `uniform sampler2D picture; varying vec2 at;
uniform vec4 shown; uniform vec4 drawn; uniform vec3 bend;
vec2 found() {
  vec2 p = shown.xy + at * shown.zw;
  float wanted = length(p), edge = sqrt(bend.z), share = 1.0 + bend.z * (bend.x + bend.z * bend.y);
  float r = min(wanted, edge);
  for (int n = 0; n < ${STEPS}; n++) {
    float s = r * r;
    float slope = max(1.0 + s * (3.0 * bend.x + 5.0 * s * bend.y), 1e-3);
    r = clamp(r - (r * (1.0 + s * (bend.x + s * bend.y)) - wanted) / slope, 0.0, edge);
  }
  if (wanted > edge * share) r = wanted / share;
  return (p * (r / max(wanted, 1e-9)) - drawn.xy) / drawn.zw;
}
`;

/** A pass that looks up `texture2D(picture, at)` through the glass. */
export function throughGlass(pass: string): string {
  return (
    LOOK_UP +
    pass.replace(/uniform sampler2D picture;|varying vec2 at;/g, "").replace("picture, at", "picture, found()")
  );
}

/** Inputs of a distortion pass. */
export function uniformsOf({ k, turn, shown, drawn }: Bent): Record<string, number[]> {
  const four = ({ left, bottom, width, height }: Flat) => [left, bottom, width, height];
  return { shown: four(shown), drawn: four(drawn), bend: [...k, turn] };
}

/** Direction in the world of what is seen at a place of what is shown: shares of it from the left and lower edge. */
export function directionAt(lens: PerspectiveCamera, { k, turn, shown }: Bent, across: number, up: number): Vector3 {
  const [x, y] = plain(shown.left + across * shown.width, shown.bottom + up * shown.height, k, turn);
  return new Vector3(x, y, -1).normalize().transformDirection(lens.matrixWorld);
}

/** Plain drawings for bent pictures, a target for each size that is in use. */
export class WideDrawings {
  private readonly targets = new Map<string, Target>();

  constructor(
    private readonly gl: WebGLRenderer,
    private readonly samples: number,
  ) {}

  /** Drawing that a distorted picture of a given size needs. */
  draw(scene: Scene, lens: PerspectiveCamera, pose: ShownPose, bent: Bent, width: number, height: number) {
    const { drawn, shown } = bent;
    aimAt(lens, pose, drawn);
    lens.updateMatrixWorld();
    const target = this.target(
      width * (drawn.width / shown.width),
      height * (drawn.height / shown.height),
      width,
      height,
    );
    this.gl.setRenderTarget(target);
    this.gl.render(scene, lens);
    return target.texture;
  }

  dispose(): void {
    for (const target of this.targets.values()) target.dispose();
    this.targets.clear();
  }

  private target(wide: number, high: number, width: number, height: number): Target {
    const maxTexturePx = this.gl.capabilities.maxTextureSize;
    // While something is keyed or dragged the size would change with every picture.
    const even = (px: number) => Math.ceil(px / STEP_PX) * STEP_PX;
    const sized = (wanted: number, of: number) => Math.min(even(Math.min(wanted, MAX_WIDER * of)), maxTexturePx);
    const size = [sized(wide, width), sized(high, height)] as const;
    const name = size.join();
    const known = this.targets.get(name);
    if (known) return known;
    if (this.targets.size >= MAX_SIZES) this.dispose();
    const newTarget = pictureTarget(...size, this.samples);
    this.targets.set(name, newTarget);
    return newTarget;
  }
}
