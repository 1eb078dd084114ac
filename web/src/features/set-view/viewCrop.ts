/** The drawn part of a picture, and its lens. */
import { MathUtils, type PerspectiveCamera } from "three";
import { placeAtLens, type ShownPose, shiftAt, VFOV } from "./poses";

/** A close look at a part of the picture: how many times larger, and where its middle is (0 to 1). */
type Loupe = { zoom: number; x: number; y: number };
/** Its aspect, how many times more than the picture is seen, and which part of it. */
export type ViewCrop = { aspect: number; times: number; loupe: Loupe };
/** A rectangle in tangents of the angles from the axis of the lens, right and up. */
export type Flat = { left: number; bottom: number; width: number; height: number };

const FULL_VIEW: Loupe = { zoom: 1, x: 0.5, y: 0.5 };

/** All of a picture and no more. */
export function wholePicture(aspect: number): ViewCrop {
  return { aspect, times: 1, loupe: FULL_VIEW };
}

/** The part of the plane before the lens that is shown at a pose, shifted by the film back. */
export function shownAt(pose: ShownPose, { aspect, times, loupe: { zoom, x, y } }: ViewCrop): Flat {
  const height = 2 * Math.tan(MathUtils.degToRad(pose.data[pose.at + VFOV] ?? 40) / 2) * times;
  const [right, up] = shiftAt(pose).map((share) => share / times) as [number, number];
  return {
    left: (x - 0.5 / zoom - right - 0.5) * height * aspect,
    bottom: (0.5 - y - 0.5 / zoom - up) * height,
    width: (height * aspect) / zoom,
    height: height / zoom,
  };
}

/** Takes a lens to a pose, so that it sees just a part of the plane before it. */
export function aimAt(lens: PerspectiveCamera, pose: ShownPose, { left, bottom, width, height }: Flat): void {
  placeAtLens(lens, pose.data, pose.at);
  const { near, far } = lens;
  const [right, top] = [left + width, bottom + height];
  lens.projectionMatrix.makePerspective(left * near, right * near, top * near, bottom * near, near, far);
  lens.projectionMatrixInverse.copy(lens.projectionMatrix).invert();
}
