/** A movie's frames: each picture exposed, brought to 8 bits in its place, and read back. */
import {
  CustomBlending,
  NearestFilter,
  OneFactor,
  OneMinusSrcAlphaFactor,
  type Scene,
  type Texture,
  UnsignedByteType,
  type WebGLRenderer,
  WebGLRenderTarget,
} from "three";
import { drawsInSoftware } from "../../shared/renderer";
import type { FrameOrder, Movie, Overlay } from "../../stores/movie";
import { Exposer } from "./exposer";
import { discard, PLAIN, pass, run, SAMPLES, SHOWN } from "./passes";
import { readBack } from "./readBack";
import { anyTiled } from "./tiles";
import { wholePicture } from "./viewCrop";

/** Draws frames of one movie. */
export class FrameMaker {
  private readonly exposer: Exposer;
  private readonly aspect: number;
  private readonly frame: WebGLRenderTarget;
  private readonly show = pass(SHOWN);
  private readonly lay = pass(PLAIN, {
    transparent: true,
    blending: CustomBlending,
    blendSrc: OneFactor,
    blendDst: OneMinusSrcAlphaFactor,
  });

  constructor(
    private readonly gl: WebGLRenderer,
    scene: Scene,
    private readonly movie: Movie,
    private readonly invalidate: () => void,
  ) {
    const { width, height } = movie.regions[0] ?? movie;
    const samples = drawsInSoftware() && movie.draws.length > 1 ? 0 : SAMPLES;
    this.exposer = new Exposer(gl, scene, width, height, samples);
    this.aspect = width / height;
    this.frame = new WebGLRenderTarget(movie.width, movie.height, {
      depthBuffer: false,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
      type: UnsignedByteType,
    });
  }

  /** A frame as raw RGBA from the lowest row up. The drawings of the page are unaffected. */
  make(order: FrameOrder, overlays: Overlay[]): Promise<Uint8Array> {
    const { draws, regions } = this.movie;
    const sharp = anyTiled() && this.exposer.sharpen(draws.length, order, regions.length, wholePicture(this.aspect));
    return sharp ? sharp.then(() => this.draw(order, overlays)) : this.draw(order, overlays);
  }

  private draw(order: FrameOrder, overlays: Overlay[]): Promise<Uint8Array> {
    const { gl, movie } = this;
    const before = { target: gl.getRenderTarget(), autoClear: gl.autoClear, shadows: gl.shadowMap.autoUpdate };
    // All is drawn in one go, and only then waited for: the page's own pictures never come in between.
    try {
      movie.regions.forEach((region, n) => {
        const light = this.exposer.expose(movie.draws, order, `pose:${n}`, wholePicture(this.aspect), n === 0);
        this.place(region, light);
      });
      for (const overlay of overlays) this.overlay(overlay);
      return readBack(gl, this.frame);
    } finally {
      gl.setRenderTarget(before.target);
      gl.autoClear = before.autoClear;
      gl.shadowMap.autoUpdate = before.shadows;
      this.invalidate();
    }
  }

  dispose(): void {
    this.exposer.dispose();
    this.frame.dispose();
    discard(this.show);
    discard(this.lay);
  }

  /** Displayed light values, at its position in the frame. */
  private place({ x, y, width, height, start, stop }: Movie["regions"][number], light: Texture): void {
    const low = this.movie.height - y - height;
    const [from, to] = [Math.round(start * width), Math.round(stop * width)];
    this.frame.viewport.set(x, low, width, height);
    this.frame.scissor.set(x + from, low, to - from, height);
    this.into(() => run(this.gl, this.show, light));
  }

  private overlay({ texture, x, y, width, height }: Overlay): void {
    const low = this.movie.height - y - height;
    this.frame.viewport.set(x, low, width, height);
    this.frame.scissor.set(x, low, width, height);
    this.into(() => run(this.gl, this.lay, texture));
  }

  private into(draw: () => void): void {
    this.frame.scissorTest = true;
    this.gl.setRenderTarget(this.frame);
    this.gl.autoClear = false;
    draw();
    this.gl.autoClear = true;
  }
}
