import { useEffect } from "react";
import { type PerspectiveCamera, Plane, Raycaster, Sphere, Vector2, Vector3 } from "three";
import type { Command } from "../../api/types";
import { commit, preview } from "../../stores/session";
import { pause, transport } from "../../stores/transport";
import { view } from "../../stores/view";
import { barePose } from "./poses";

/** How near the pointer has to be to the camera body. */
const GRIP_M = 0.32;
const TURN_DEG = 0.3;

type Grip = {
  from: Vector3;
  start: Vector3;
  x: number;
  y: number;
  mode: "floor" | "height" | "turn" | "roll";
  angles: Vector3;
};

/** Without what is locked; nothing when nothing is left. */
function unlocked(command: Command | null): Command | null {
  if (command?.type !== "set_move") return command;
  const { locks } = view.getState();
  const values = Object.fromEntries(
    Object.entries(command.values).filter(([field]) => !locks.some((lock) => lock === field)),
  );
  return Object.keys(values).length ? { ...command, values } : null;
}

/** Dragging the camera in the Set view: over the floor, with Shift in height, with Alt its pan and tilt, with Ctrl its roll. */
export function useCameraDrag(
  pane: HTMLElement | null,
  outside: PerspectiveCamera,
  onGrip: (held: boolean) => void,
): void {
  useEffect(() => {
    if (!pane) return;
    const ray = new Raycaster();
    const hit = new Vector3();
    let grip: Grip | null = null;
    let command: Command | null = null;
    const aim = (event: PointerEvent) => {
      const box = pane.getBoundingClientRect();
      ray.setFromCamera(
        new Vector2(((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2),
        outside,
      );
    };
    const down = (event: PointerEvent) => {
      const pose = barePose();
      if (!pose || event.button !== 0) return;
      const at = new Vector3(pose.data[pose.at], pose.data[pose.at + 1], pose.data[pose.at + 2]);
      aim(event);
      if (!ray.ray.intersectsSphere(new Sphere(at, GRIP_M))) return;
      const mode = event.shiftKey
        ? "height"
        : event.altKey
          ? "turn"
          : event.ctrlKey || event.metaKey
            ? "roll"
            : "floor";
      const angles = new Vector3(pose.data[pose.at + 3], pose.data[pose.at + 4], pose.data[pose.at + 5]);
      grip = {
        from: at,
        start: ray.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), -at.y), new Vector3()) ?? at.clone(),
        x: event.clientX,
        y: event.clientY,
        mode,
        angles,
      };
      pause();
      onGrip(true);
      event.stopPropagation();
      pane.setPointerCapture(event.pointerId);
    };
    const move = (event: PointerEvent) => {
      if (!grip) return;
      event.stopPropagation();
      aim(event);
      const frame = transport.getState().frame;
      const key = view.getState().autoKey;
      const { mode, from, start, angles } = grip;
      if (mode === "turn") {
        const pan = angles.x - (event.clientX - grip.x) * TURN_DEG;
        const tilt = angles.y - (event.clientY - grip.y) * TURN_DEG;
        command = { type: "set_move", frame, key, values: { pan_deg: pan, tilt_deg: tilt } };
      } else if (mode === "roll") {
        command = {
          type: "set_move",
          frame,
          key,
          values: { roll_deg: angles.z - (event.clientX - grip.x) * TURN_DEG },
        };
      } else if (mode === "height") {
        const rise = ((grip.y - event.clientY) * outside.position.distanceTo(from)) / pane.clientHeight;
        command = { type: "set_move", frame, key, values: { y_m: from.y + rise } };
      } else if (ray.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), -from.y), hit)) {
        command = {
          type: "set_move",
          frame,
          key,
          values: { x_m: from.x + hit.x - start.x, z_m: from.z + hit.z - start.z },
        };
      }
      command = unlocked(command);
      if (command) preview(command);
    };
    const up = () => {
      if (grip && command) void commit(command);
      if (grip) onGrip(false);
      grip = null;
      command = null;
    };
    pane.addEventListener("pointerdown", down, { capture: true });
    pane.addEventListener("pointermove", move, { capture: true });
    pane.addEventListener("pointerup", up);
    pane.addEventListener("pointercancel", up);
    return () => {
      pane.removeEventListener("pointerdown", down, { capture: true });
      pane.removeEventListener("pointermove", move, { capture: true });
      pane.removeEventListener("pointerup", up);
      pane.removeEventListener("pointercancel", up);
    };
  }, [pane, outside, onGrip]);
}
