/** The view through the lens: its overlay, readings and scribble. The picture itself is drawn by set-view's stage. */
export { Scribble } from "./Scribble";
export { ViewfinderPane } from "./ViewfinderPane";
