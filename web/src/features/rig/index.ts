/** The rig: mounts, what is on them, poses copied and pasted, what moves the picture. */
export { AddMountMenu } from "./AddMountMenu";
export { GiveForm } from "./GiveForm";
export { MountGlyph } from "./MountGlyph";
export { MoversBar } from "./MoversBar";
export {
  copied,
  copyPose,
  fit,
  follow,
  holdFraming,
  moveMount,
  pastePose,
  removeMount,
  takeRig,
} from "./mounts";
export { OperatorForm } from "./OperatorForm";
export { RideForm } from "./RideForm";
export { RigForm } from "./RigForm";
