/** Pixels of a target, read by way of a buffer: nothing waits for the graphics processor, neither on timers, which stop in a hidden tab. */
import type { WebGLRenderer, WebGLRenderTarget } from "three";
import { PictureLost } from "../../stores/movie";

const CHANNELS = 4;

/** A turn of the event loop that no tab holds back. */
function turn(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
}

/** Raw RGBA of a target of 8 bits, from the lowest row up. Throws PictureLost. */
export async function readBack(renderer: WebGLRenderer, target: WebGLRenderTarget): Promise<Uint8Array> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const { width, height } = target;
  const bytes = new Uint8Array(width * height * CHANNELS);
  const buffer = gl.createBuffer();
  renderer.setRenderTarget(target);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
  gl.bufferData(gl.PIXEL_PACK_BUFFER, bytes.byteLength, gl.STREAM_READ);
  gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, 0);
  gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
  renderer.setRenderTarget(null);
  const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
  gl.flush();
  try {
    // A lost context gives no fence, and reads as black.
    if (!fence) throw new PictureLost();
    for (;;) {
      const state = gl.clientWaitSync(fence, 0, 0);
      if (gl.isContextLost() || state === gl.WAIT_FAILED) throw new PictureLost();
      if (state === gl.CONDITION_SATISFIED || state === gl.ALREADY_SIGNALED) break;
      await turn();
    }
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, buffer);
    gl.getBufferSubData(gl.PIXEL_PACK_BUFFER, 0, bytes);
    gl.bindBuffer(gl.PIXEL_PACK_BUFFER, null);
    if (gl.isContextLost()) throw new PictureLost();
    return bytes;
  } finally {
    gl.deleteSync(fence);
    gl.deleteBuffer(buffer);
  }
}
