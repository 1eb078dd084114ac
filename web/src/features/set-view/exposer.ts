/** One picture exposed: the scene drawn at several moments and summed in linear light. */
import {
  AdditiveBlending,
  Color,
  FloatType,
  NearestFilter,
  PerspectiveCamera,
  type Scene,
  type WebGLRenderer,
  WebGLRenderTarget,
} from "three";
import type { FrameOrder } from "../../stores/movie";
import { type Moment, poseScene } from "../../stores/scenery";
import { bentAt, throughGlass, uniformsOf, WideDrawings } from "./glass";
import { discard, pass, pictureTarget, run } from "./passes";
import type { ShownPose } from "./poses";
import { sharpen } from "./tiles";
import { FAR_M, NEAR_M } from "./useOutside";
import { aimAt, shownAt, type ViewCrop } from "./viewCrop";

/** One drawing: its rows (shares of the height from the top), and its weight. */
export type Draw = { top: number; bottom: number; weight: number };

const WEIGHED = `uniform sampler2D picture; uniform float weight; varying vec2 at;
void main() { gl_FragColor = vec4(texture2D(picture, at).rgb * weight, 1.0); }`;

export class Exposer {
  private readonly lens = new PerspectiveCamera(40, 16 / 9, NEAR_M, FAR_M);
  private readonly drawn: WebGLRenderTarget;
  private readonly sum: WebGLRenderTarget;
  private readonly ground = new Color();
  private readonly add = pass(WEIGHED, { blending: AdditiveBlending, transparent: true });
  private readonly addBent = pass(throughGlass(WEIGHED), { blending: AdditiveBlending, transparent: true });
  private readonly wide: WideDrawings;

  constructor(
    private readonly gl: WebGLRenderer,
    private readonly scene: Scene,
    width: number,
    height: number,
    samples: number,
  ) {
    if (!gl.getContext().getExtension("EXT_float_blend"))
      throw new Error("this browser cannot sum pictures in linear light (EXT_float_blend); use another one");
    this.drawn = pictureTarget(width, height, samples);
    this.wide = new WideDrawings(gl, samples);
    this.sum = new WebGLRenderTarget(width, height, {
      depthBuffer: false,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
      type: FloatType,
    });
  }

  /** The light of all drawings, each counted by its weight in its rows. shadows: whether the first of them makes its own. */
  expose(draws: Draw[], order: FrameOrder, poses: string, seen: ViewCrop, shadows: boolean) {
    const { gl, drawn, sum } = this;
    const { height } = drawn;
    const rows = order.rows(poses);
    gl.autoClear = true;
    gl.getClearColor(this.ground);
    gl.setRenderTarget(sum);
    gl.setClearColor(0, 1);
    gl.clear();
    gl.setClearColor(this.ground, 1);
    draws.forEach(({ top, bottom, weight }, k) => {
      const moment: Moment = { frame: order.at(k), row: (name) => order.row(name, k) };
      poseScene(moment);
      this.scene.updateMatrixWorld();
      if (!rows) return;
      gl.shadowMap.autoUpdate = shadows && k === 0;
      const span: [number, number] = [Math.round((1 - bottom) * height), Math.round((1 - top) * height)];
      const seenBy = this.seen({ data: rows.data, at: rows.at + k * rows.columns }, seen, span);
      this.within(sum, span, () => {
        gl.autoClear = false;
        seenBy(weight);
        gl.autoClear = true;
      });
    });
    return sum.texture;
  }

  /** Answers when large pictures are as sharp as the first and the last of some drawings need them. */
  async sharpen(draws: number, order: FrameOrder, regions: number, seen: ViewCrop): Promise<void> {
    for (let region = 0; region < regions; region++)
      for (const k of new Set([0, draws - 1])) {
        const rows = order.rows(`pose:${region}`);
        if (!rows) continue;
        const look = () => {
          poseScene({ frame: order.at(k), row: (name) => order.row(name, k) });
          this.scene.updateMatrixWorld();
          const pose = { data: rows.data, at: rows.at + k * rows.columns };
          aimAt(this.lens, pose, shownAt(pose, seen));
          return sharpen(this.lens, this.drawn.width, this.drawn.height, () => undefined);
        };
        // Newly loaded parts are used from the next request on.
        const coming = look();
        if (!coming) continue;
        await coming;
        look();
      }
  }

  /** Draws what is seen at a pose in some rows; answers with what adds it by a weight. */
  private seen(pose: ShownPose, seen: ViewCrop, span: [number, number]): (weight: number) => void {
    const { gl, scene, lens, drawn } = this;
    const bent = bentAt(pose, seen);
    if (bent) {
      const picture = this.wide.draw(scene, lens, pose, bent, drawn.width, drawn.height);
      return (weight) => run(gl, this.addBent, picture, { weight, ...uniformsOf(bent) });
    }
    aimAt(lens, pose, shownAt(pose, seen));
    lens.updateMatrixWorld();
    this.within(drawn, span, () => gl.render(scene, lens));
    return (weight) => run(gl, this.add, drawn.texture, { weight });
  }

  dispose(): void {
    this.wide.dispose();
    discard(this.addBent);
    this.drawn.dispose();
    this.sum.dispose();
    discard(this.add);
  }

  /** Draws into some rows of a target, counted from the lowest. */
  private within(target: WebGLRenderTarget, [from, to]: [number, number], draw: () => void): void {
    target.scissorTest = true;
    target.scissor.set(0, from, target.width, to - from);
    this.gl.setRenderTarget(target);
    draw();
    target.scissorTest = false;
  }
}
