/** Pictures from the server as textures. */
import { SRGBColorSpace, Texture } from "three";

/** Upright for the GPU, with straight alpha. */
const PLAIN: ImageBitmapOptions = { imageOrientation: "flipY", premultiplyAlpha: "none" };

/** most: sides in pixels; a larger picture is made smaller. Throws where there is no picture. */
export async function pictureTexture(url: string, most = Number.POSITIVE_INFINITY): Promise<Texture> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
  const fullSize = await createImageBitmap(await answer.blob(), PLAIN);
  const texture = new Texture(await smaller(fullSize, most));
  texture.colorSpace = SRGBColorSpace;
  texture.flipY = false;
  texture.needsUpdate = true;
  return texture;
}

/** Lets go of a texture and of its picture. */
export function discardPicture(texture: Texture): void {
  (texture.image as ImageBitmap).close();
  texture.dispose();
}

/** Its number of pixels. */
export function pixelsOf(texture: Texture): number {
  const { width, height } = texture.image as ImageBitmap;
  return width * height;
}

async function smaller(bitmap: ImageBitmap, most: number): Promise<ImageBitmap> {
  const share = most / Math.max(bitmap.width, bitmap.height);
  if (share >= 1) return bitmap;
  const [resizeWidth, resizeHeight] = [bitmap.width, bitmap.height].map((side) =>
    Math.max(1, Math.round(side * share)),
  );
  const resized = await createImageBitmap(bitmap, {
    premultiplyAlpha: "none",
    resizeQuality: "high",
    resizeWidth,
    resizeHeight,
  });
  bitmap.close();
  return resized;
}
