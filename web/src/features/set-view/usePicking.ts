import { useEffect } from "react";
import { Mesh, type Object3D, type PerspectiveCamera, Raycaster, type Scene, Vector2 } from "three";
import { useStore } from "zustand";
import { fitted } from "../../shared/fit";
import { commit, markSubject } from "../../stores/editing";
import { note } from "../../stores/notes";
import { elementOf, FINDER, SET_VIEW, stage } from "../../stores/stage";
import { view } from "../../stores/view";
import { seenNow } from "./drawViews";
import { bentAt, directionAt } from "./glass";
import { OUTSIDE_LAYER } from "./layers";
import { shownPose } from "./poses";

/** A press that wanders further than this is no click. */
const STILL_PX = 4;

/** Name of the nearest object of the file that a mesh belongs to. */
function nameOf(object: Object3D): string | null {
  for (let at: Object3D | null = object; at; at = at.parent)
    if (typeof at.userData.name === "string" && at.userData.name) return at.userData.name;
  return null;
}

/** Whether an object and all its parents are visible; rays hit hidden ones too. */
function shows(object: Object3D): boolean {
  let at: Object3D | null = object;
  while (at?.visible) at = at.parent;
  return at === null;
}

/** While a point is being picked, a click in either view marks what it hits as the subject, or as the place of the selected cues. */
export function usePicking(scene: Scene, lens: PerspectiveCamera, outside: PerspectiveCamera): void {
  const picking = useStore(view, (state) => state.picking);
  const finder = useStore(stage, elementOf(FINDER));
  const side = useStore(stage, elementOf(SET_VIEW));
  useEffect(() => {
    if (!picking) return;
    const ray = new Raycaster();
    let press: Vector2 | null = null;
    const pick = (pane: HTMLElement, camera: PerspectiveCamera, event: PointerEvent) => {
      const box = pane.getBoundingClientRect();
      const { aspect } = stage.getState();
      const fullBox = { x: 0, y: 0, width: box.width, height: box.height };
      const inner = camera === lens ? fitted(box.width, box.height, aspect) : fullBox;
      const x = ((event.clientX - box.left - inner.x) / inner.width) * 2 - 1;
      const y = 1 - ((event.clientY - box.top - inner.y) / inner.height) * 2;
      if (Math.abs(x) > 1 || Math.abs(y) > 1) return;
      ray.setFromCamera(new Vector2(x, y), camera);
      const pose = camera === lens && shownPose();
      const bent = pose && bentAt(pose, seenNow(aspect));
      if (bent) ray.set(lens.position, directionAt(lens, bent, (x + 1) / 2, (y + 1) / 2));
      const hits = ray.intersectObjects(scene.children, true);
      const hit = hits.find(
        ({ object }) => object instanceof Mesh && shows(object) && !object.layers.isEnabled(OUTSIDE_LAYER),
      );
      if (!hit) {
        const { ready, setProblem } = stage.getState();
        const loading = !ready && !setProblem;
        note(
          "info",
          loading
            ? "The set is still loading: click again in a moment"
            : "Nothing to pick there: click a piece of the set, or press Esc",
        );
        return;
      }
      view.setState({ picking: false });
      const point: [number, number, number] = [hit.point.x, hit.point.y, hit.point.z];
      if (picking === "subject") void markSubject(nameOf(hit.object), point);
      else void commit({ type: "set_cues", cues: view.getState().cues, place_m: point, nowhere: false });
    };
    const listen = (pane: HTMLElement | null, camera: PerspectiveCamera) => {
      if (!pane) return () => undefined;
      const down = (event: PointerEvent) => {
        press = new Vector2(event.clientX, event.clientY);
      };
      const up = (event: PointerEvent) => {
        if (press && press.distanceTo(new Vector2(event.clientX, event.clientY)) < STILL_PX) pick(pane, camera, event);
        press = null;
      };
      pane.addEventListener("pointerdown", down);
      pane.addEventListener("pointerup", up);
      return () => {
        pane.removeEventListener("pointerdown", down);
        pane.removeEventListener("pointerup", up);
      };
    };
    const stops = [listen(finder, lens), listen(side, outside)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [picking, finder, side, scene, lens, outside]);
}
