import { useEffect } from "react";
import { type PerspectiveCamera, Vector3 } from "three";
import { motion, rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { transport } from "../../stores/transport";
import { selectMount, view } from "../../stores/view";

/** A click as near as this to the middle of a mount means it; one that wanders further is no click. */
const NEAR_PX = 14;
const STILL_PX = 4;

/** The mount whose shape is at a place of the pane, if there is one. */
function mountAt(pane: HTMLElement, camera: PerspectiveCamera, x: number, y: number): string | null {
  const state = motion.getState();
  const box = pane.getBoundingClientRect();
  let nearest: { id: string; px: number } | null = null;
  for (const { id } of openShot.getState().state?.document.mounts ?? []) {
    const array = state.arrays.get(`rig:${id}`);
    if (!array) continue;
    const at = rowOf(transport.getState().frame, state) * array.columns;
    const projected = new Vector3(array.data[at], array.data[at + 1], array.data[at + 2]).project(camera);
    if (projected.z > 1) continue;
    const screenX = box.left + ((projected.x + 1) / 2) * box.width;
    const top = box.top + ((1 - projected.y) / 2) * box.height;
    const px = Math.hypot(screenX - x, top - y);
    if (px < NEAR_PX && px <= (nearest?.px ?? NEAR_PX)) nearest = { id, px };
  }
  return nearest?.id ?? null;
}

/** A click on a mount's shape in the Set view selects it. */
export function useMountPicking(pane: HTMLElement | null, camera: PerspectiveCamera): void {
  useEffect(() => {
    if (!pane) return;
    let pressed: [number, number] | null = null;
    const down = ({ clientX, clientY }: PointerEvent) => {
      pressed = [clientX, clientY];
    };
    const up = ({ clientX, clientY }: PointerEvent) => {
      const isClick = pressed && Math.hypot(pressed[0] - clientX, pressed[1] - clientY) < STILL_PX;
      pressed = null;
      if (!isClick || view.getState().picking) return;
      if ((openShot.getState().state?.document.mounts.length ?? 0) < 2) return;
      const mount = mountAt(pane, camera, clientX, clientY);
      if (mount) selectMount(mount);
    };
    pane.addEventListener("pointerdown", down, true);
    pane.addEventListener("pointerup", up, true);
    return () => {
      pane.removeEventListener("pointerdown", down, true);
      pane.removeEventListener("pointerup", up, true);
    };
  }, [pane, camera]);
}
