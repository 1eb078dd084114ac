/** The stage: one scene, drawn twice, through the lens and from outside. */

export { SetViewPane } from "./SetViewPane";
export { Stage } from "./Stage";
