/** The renderer: queried once, with a temporary context. */
let known: string | null = null;
let drawn = false;

/** Name of the renderer, or an empty text if it is hidden. */
export function rendererName(): string {
  if (known !== null) return known;
  const context = document.createElement("canvas").getContext("webgl2");
  const info = context?.getExtension("WEBGL_debug_renderer_info");
  drawn = context !== null;
  known = context && info ? String(context.getParameter(info.UNMASKED_RENDERER_WEBGL)) : "";
  context?.getExtension("WEBGL_lose_context")?.loseContext();
  return known;
}

/** Whether pictures can be drawn. */
export function drawsAtAll(): boolean {
  rendererName();
  return drawn;
}

/** Whether pictures are drawn in software: antialiasing then costs more than it improves. */
export function drawsInSoftware(): boolean {
  return /swiftshader|llvmpipe|software|basic render/i.test(rendererName());
}
