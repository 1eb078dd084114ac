/** Drawing the scene through the lens and from outside, each into its pane. */
import type { PerspectiveCamera, Scene, WebGLRenderer } from "three";
import { AROUND, fitted } from "../../shared/fit";
import { view } from "../../stores/view";
import { bentAt, throughGlass, uniformsOf, WideDrawings } from "./glass";
import { discard, pass, run, SAMPLES, SHOWN } from "./passes";
import type { ShownPose } from "./poses";
import { sharpen } from "./tiles";
import { aimAt, shownAt, type ViewCrop } from "./viewCrop";

export type Box = { left: number; top: number; width: number; height: number };

/** Position of a pane on the canvas. Asking makes the page lay itself out, so it is asked when something changed its size. */
export function boxOf(pane: HTMLElement, canvas: HTMLElement): Box {
  const a = pane.getBoundingClientRect();
  const b = canvas.getBoundingClientRect();
  return { left: a.left - b.left, top: a.top - b.top, width: a.width, height: a.height };
}

function aim(gl: WebGLRenderer, { left, top, width, height }: Box, canvasHeight: number): void {
  const bottom = canvasHeight - top - height;
  gl.setViewport(left, bottom, width, height);
  gl.setScissor(left, bottom, width, height);
}

const WALL = 0x17181b;

/** The whole canvas as the wall is. */
export function wipe(gl: WebGLRenderer): void {
  gl.setScissorTest(false);
  gl.setClearColor(WALL, 1);
  gl.clear();
}

/** The present content of the Viewfinder. */
export function seenNow(aspect: number): ViewCrop {
  const { around, loupe } = view.getState();
  return { aspect, times: around ? AROUND : 1, loupe };
}

/** part: from where to where it is drawn, as shares of the picture's width. */
type LensView = {
  box: Box;
  aspect: number;
  canvasHeight: number;
  pose: ShownPose;
  part?: [number, number];
  /** For the large one: tiles of large pictures are loaded as needed, with a new drawing afterwards. */
  redraw?: () => void;
};

/** Draws what a lens sees at poses. */
export class LensPictures {
  private readonly wide: WideDrawings;
  private readonly show = pass(throughGlass(SHOWN));

  constructor(
    private readonly gl: WebGLRenderer,
    private readonly scene: Scene,
    private readonly lens: PerspectiveCamera,
  ) {
    this.wide = new WideDrawings(gl, SAMPLES);
  }

  draw({ box, aspect, canvasHeight, pose, part, redraw }: LensView): void {
    const { gl, scene, lens } = this;
    const { x, y, width, height } = fitted(box.width, box.height, aspect);
    const currentView = seenNow(aspect);
    const bent = bentAt(pose, currentView);
    const dpr = gl.getPixelRatio();
    aimAt(lens, pose, shownAt(pose, currentView));
    if (redraw) sharpen(lens, width * dpr, height * dpr, redraw);
    const wide = bent && this.wide.draw(scene, lens, pose, bent, width * dpr, height * dpr);
    if (wide) gl.setRenderTarget(null);
    const picture = { left: box.left + x, top: box.top + y, width, height };
    aim(gl, picture, canvasHeight);
    if (part) {
      const [from, to] = part.map((share) => Math.round(share * width)) as [number, number];
      gl.setScissor(picture.left + from, canvasHeight - picture.top - height, Math.max(to - from, 0), height);
    }
    if (wide && bent) run(gl, this.show, wide, uniformsOf(bent));
    else gl.render(scene, lens);
  }

  dispose(): void {
    this.wide.dispose();
    discard(this.show);
  }
}

/** Draws the scene from outside. */
export function drawFromOutside(
  gl: WebGLRenderer,
  scene: Scene,
  camera: PerspectiveCamera,
  box: Box,
  canvasHeight: number,
): void {
  camera.aspect = Math.max(box.width, 1) / Math.max(box.height, 1);
  camera.updateProjectionMatrix();
  aim(gl, box, canvasHeight);
  gl.render(scene, camera);
}
