/** Store fields that pictures depend on: other changes need no new drawing. */
import type { Motion } from "../../stores/motion";
import type { View } from "../../stores/view";

/** Arrays of poses, of the lens, of mounts and of plates, and at which frames. */
const POSES = /^(pose$|bare$|rig:|plate:)/;

export const ofView = ({ bypass, around, loupe, light, looks, tinted, board, mount, cues, flying }: View) => ({
  bypass,
  around,
  loupe,
  light,
  looks,
  tinted,
  board,
  mount,
  cues,
  flying,
});

/** Arrays stay the same objects until their samples change. */
export const ofMotion = ({ shot, first, rows, arrays }: Motion) => ({
  shot,
  first,
  rows,
  ...Object.fromEntries([...arrays].filter(([name]) => POSES.test(name))),
});
