/** Actions on the rig: mounts, what is on them, poses. */

import {
  copied,
  copyPose,
  fit,
  follow,
  holdFraming,
  moveMount,
  pastePose,
  removeMount,
  takeRig,
} from "../../acts/mounts";
import { mountId, mountNow } from "../../stores/rig";
import { serverTables } from "../../stores/serverTables";
import { outsidePose } from "../../stores/stage";
import { type MountPart, view } from "../../stores/view";
import { type Action, shotNow } from "./action";

const show = (part: MountPart) => () => view.setState({ board: "move", part });
const several = () => (shotNow()?.mounts.length ?? 0) > 1;
const withPose = () => view.getState().pose !== null;

function copyEye(): void {
  const viewPose = outsidePose();
  if (viewPose) copied({ of: "the Set view's eye", position: viewPose.position, angles: viewPose.angles });
}

export const RIGGING: Action[] = [
  {
    id: "rig-rows",
    title: "Toggle a row for each mount",
    keys: ["Shift+R"],
    run: () => view.setState(({ rigOpen }) => ({ rigOpen: !rigOpen })),
  },
  ...serverTables().forms.rigs.map((rig) => ({
    id: `rig-${rig.name}`,
    title: `Ready-made rig: ${rig.name}`,
    keys: [],
    run: () => takeRig(rig),
  })),
  {
    id: "operator",
    title: "Toggle operator",
    also: "follow target track aim",
    keys: ["Shift+O"],
    run: () => {
      fit("operator", !mountNow()?.operator);
      show("operator")();
    },
  },
  {
    id: "springs",
    title: "Toggle springs of this mount",
    keys: ["Shift+G"],
    run: () => {
      fit("springs", !mountNow()?.springs);
      show("springs")();
    },
  },
  {
    id: "hold",
    title: "Toggle hold framing",
    also: "follow target stabilise",
    keys: ["Shift+H"],
    run: () => holdFraming(!shotNow()?.hold),
  },
  { id: "glass", title: "Lens: distortion and breathing …", also: "focus barrel glass", keys: [], run: show("glass") },
  { id: "ride", title: "Ride on …", keys: [], run: show("ride") },
  { id: "mount", title: "This mount: name, length, pivot, order …", keys: [], run: show("rig") },
  { id: "to-ground", title: "Mount towards the ground", keys: [], available: several, run: () => moveMount(-1) },
  { id: "to-lens", title: "Mount towards the lens", keys: [], available: several, run: () => moveMount(1) },
  {
    id: "unmount",
    title: "Remove this mount, keep the picture",
    keys: [],
    available: several,
    run: () => removeMount(true),
  },
  {
    id: "copy-pose",
    title: "Copy the pose of this mount",
    keys: ["Shift+C"],
    run: () => copyPose(mountId()),
  },
  { id: "copy-camera", title: "Copy the pose of the camera", keys: [], run: () => copyPose(null) },
  { id: "copy-eye", title: "Copy the pose of the Set view's eye", keys: [], run: copyEye },
  {
    id: "paste-pose",
    title: "Paste the copied pose on this mount",
    keys: ["Shift+V"],
    available: withPose,
    run: () => pastePose(false),
  },
  {
    id: "paste-stretch",
    title: "Paste the copied pose on this mount over the loop range",
    keys: [],
    available: withPose,
    run: () => pastePose(true),
  },
  {
    id: "go-along",
    title: "Match mount to lens over the loop range",
    keys: [],
    available: several,
    run: () => void follow({ mount: null }),
  },
];
