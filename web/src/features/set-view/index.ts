/** The stage: one scene, drawn twice, through the lens and from outside. */

export { placeLens } from "./placing";
export { SetViewPane } from "./SetViewPane";
export { Stage } from "./Stage";
export { outsidePose, stage } from "./stageStore";
