/** Passes over a whole picture. */
import {
  HalfFloatType,
  LinearSRGBColorSpace,
  ShaderMaterial,
  type Texture,
  type WebGLRenderer,
  WebGLRenderTarget,
} from "three";
import { FullScreenQuad } from "three/examples/jsm/postprocessing/Pass.js";

const VERTEX = "varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }";
/** IEC 61966-2-1, from linear light to what is shown. */
export const SHOWN = `uniform sampler2D picture; varying vec2 at;
void main() {
  vec3 light = clamp(texture2D(picture, at).rgb, 0.0, 1.0);
  vec3 curve = 1.055 * pow(light, vec3(1.0 / 2.4)) - 0.055;
  gl_FragColor = vec4(mix(curve, light * 12.92, vec3(lessThanEqual(light, vec3(0.0031308)))), 1.0);
}`;
export const PLAIN =
  "uniform sampler2D picture; varying vec2 at; void main() { gl_FragColor = texture2D(picture, at); }";

export type Target = WebGLRenderTarget;

/** Subpixel samples for smooth edges. */
export const SAMPLES = 4;

/** Holds a picture as light: each material takes its own tone curve, as on screen. */
export function pictureTarget(width: number, height: number, samples: number): Target {
  const target = new WebGLRenderTarget(width, height, { type: HalfFloatType, samples });
  Object.assign(target, { isXRRenderTarget: true });
  target.texture.colorSpace = LinearSRGBColorSpace;
  return target;
}

export type PassQuad = FullScreenQuad & { material: ShaderMaterial };

export function pass(fragmentShader: string, more: Partial<ShaderMaterial> = {}): PassQuad {
  const material = new ShaderMaterial({
    uniforms: {
      picture: { value: null },
      weight: { value: 1 },
      shown: { value: [0, 0, 1, 1] },
      drawn: { value: [0, 0, 1, 1] },
      bend: { value: [0, 0, 1] },
    },
    vertexShader: VERTEX,
    fragmentShader,
    depthTest: false,
    depthWrite: false,
    ...more,
  });
  return new FullScreenQuad(material) as PassQuad;
}

export function discard(quad: PassQuad): void {
  quad.material.dispose();
  quad.dispose();
}

export function run(gl: WebGLRenderer, quad: PassQuad, picture: Texture, values: Record<string, unknown> = {}): void {
  const { uniforms } = quad.material;
  for (const [name, value] of Object.entries({ ...values, picture })) if (uniforms[name]) uniforms[name].value = value;
  quad.render(gl);
}
