/** What draws the pictures: asked once, of a context that is thrown away. */
let known: string | null = null;
let drawn = false;

/** Name of the renderer, or an empty text where it is not told. */
export function rendererName(): string {
  if (known !== null) return known;
  const context = document.createElement("canvas").getContext("webgl2");
  const info = context?.getExtension("WEBGL_debug_renderer_info");
  drawn = context !== null;
  known = context && info ? String(context.getParameter(info.UNMASKED_RENDERER_WEBGL)) : "";
  context?.getExtension("WEBGL_lose_context")?.loseContext();
  return known;
}

/** Whether pictures can be drawn at all. */
export function drawsAtAll(): boolean {
  rendererName();
  return drawn;
}

/** Whether pictures are drawn by the processor: smoothing edges then costs more than it gives. */
export function drawsInSoftware(): boolean {
  return /swiftshader|llvmpipe|software|basic render/i.test(rendererName());
}
