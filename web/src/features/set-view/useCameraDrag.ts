import { useEffect } from "react";
import { MathUtils, type PerspectiveCamera, Plane, Raycaster, Vector2, Vector3 } from "three";
import type { Command } from "../../api/types";
import { cancelPreview, commit, preview } from "../../stores/session";
import { pause } from "../../stores/transport";
import { selectPins, view } from "../../stores/view";
import { type Field, placeLens, type WorldPose } from "./placing";
import { barePose } from "./poses";
import { type Part, type Place, partAt, ringRadius, risen, type Screen, turned } from "./rings";
import { stage } from "./stageStore";

type Mode = Part | "turn";

type Grip = {
  mode: Mode;
  place: Place;
  pose: WorldPose;
  start: Vector3;
  x: number;
  y: number;
  angle: number;
  by: number;
};

const TURN_DEG = 0.3;

/** What each way of dragging is meant to change. */
const MEANT: Record<Mode, readonly Field[]> = {
  pan: ["pan_deg"],
  tilt: ["tilt_deg"],
  roll: ["roll_deg"],
  turn: ["pan_deg", "tilt_deg"],
  height: ["y_m"],
  floor: ["x_m", "z_m"],
};

const RING_ANGLE = { pan: 0, tilt: 1, roll: 2 } as const;

function poseNow(): { place: Place; pose: WorldPose } | null {
  const bare = barePose();
  if (!bare) return null;
  const [x = 0, y = 0, z = 0, pan = 0, tilt = 0, roll = 0] = bare.data.subarray(bare.at, bare.at + 6);
  return {
    place: { position: new Vector3(x, y, z), pan: MathUtils.degToRad(pan), tilt: MathUtils.degToRad(tilt) },
    pose: { position: [x, y, z], angles: [pan, tilt, roll] },
  };
}

/** Keys change what dragging the camera itself does. */
function modeOf(part: Part, event: PointerEvent): Mode {
  if (part !== "floor") return part;
  if (event.shiftKey) return "height";
  if (event.altKey) return "turn";
  return event.ctrlKey || event.metaKey ? "roll" : "floor";
}

/** Dragging the camera in the Set view: over the floor, its rings in pan, tilt and roll, its mast in height. */
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

    const screen = (): Screen => ({ camera: outside, width: pane.clientWidth, height: pane.clientHeight });
    const pointerOf = (event: PointerEvent) => {
      const box = pane.getBoundingClientRect();
      return new Vector2(event.clientX - box.left, event.clientY - box.top);
    };
    const found = (event: PointerEvent) => {
      const now = poseNow();
      if (!now) return null;
      const radius = ringRadius(outside, now.place.position, pane.clientHeight);
      const on = partAt(pointerOf(event), now.place, radius, screen(), view.getState().board === "move");
      return on ? { ...now, ...on } : null;
    };
    const onFloor = (event: PointerEvent, y: number, out: Vector3) => {
      const at = pointerOf(event);
      ray.setFromCamera(new Vector2((at.x / pane.clientWidth) * 2 - 1, 1 - (at.y / pane.clientHeight) * 2), outside);
      return ray.ray.intersectPlane(new Plane(new Vector3(0, 1, 0), -y), out);
    };

    const down = (event: PointerEvent) => {
      if (event.button !== 0 || view.getState().picking) return;
      const on = found(event);
      if (!on) return;
      const { place, pose, part, angle } = on;
      const start = onFloor(event, place.position.y, new Vector3()) ?? place.position.clone();
      grip = { mode: modeOf(part, event), place, pose, start, x: event.clientX, y: event.clientY, angle, by: 0 };
      if (view.getState().board !== "move") selectPins([]);
      pause();
      onGrip(true);
      event.stopPropagation();
      pane.setPointerCapture(event.pointerId);
    };

    /** The pose that the pointer has dragged the camera to. */
    const dragged = (held: Grip, event: PointerEvent): WorldPose => {
      const { mode, place, pose } = held;
      const position: WorldPose["position"] = [...pose.position];
      const angles: WorldPose["angles"] = [...pose.angles];
      const moved = new Vector2(event.clientX - held.x, event.clientY - held.y);
      if (mode === "turn") {
        angles[0] -= moved.x * TURN_DEG;
        angles[1] -= moved.y * TURN_DEG;
      } else if (mode === "height") {
        held.by = risen(place, moved, screen());
        position[1] += held.by;
      } else if (mode === "floor") {
        if (onFloor(event, place.position.y, hit)) {
          position[0] += hit.x - held.start.x;
          position[2] += hit.z - held.start.z;
        }
      } else {
        const radius = ringRadius(outside, place.position, pane.clientHeight);
        held.by += turned(mode, place, radius, held.angle + held.by, moved, screen());
        held.x = event.clientX;
        held.y = event.clientY;
        angles[RING_ANGLE[mode]] += MathUtils.radToDeg(held.by);
      }
      return { position, angles };
    };

    const text = (held: Grip, pose: WorldPose): string => {
      if (held.mode === "height") return `height ${pose.position[1].toFixed(2)} m`;
      if (held.mode === "floor") return `x ${pose.position[0].toFixed(2)} m, z ${pose.position[2].toFixed(2)} m`;
      if (held.mode === "turn") return `pan ${pose.angles[0].toFixed(1)}°, tilt ${pose.angles[1].toFixed(1)}°`;
      return `${held.mode} ${pose.angles[RING_ANGLE[held.mode]].toFixed(1)}°`;
    };

    const move = (event: PointerEvent) => {
      if (!grip) {
        if (event.buttons !== 0) return;
        const part = found(event)?.part ?? null;
        if (part !== (stage.getState().grip?.part ?? null))
          stage.setState({
            grip: part ? { part, text: part === "floor" ? "drag the camera over the floor" : part } : null,
          });
        return;
      }
      event.stopPropagation();
      const pose = dragged(grip, event);
      const part = grip.mode === "turn" ? "floor" : grip.mode;
      stage.setState({ grip: { part, text: text(grip, pose) } });
      command = placeLens(pose, MEANT[grip.mode]);
      if (command.type === "place_lens" && (command.locked ?? []).length < 6) preview(command);
      else command = null;
    };

    const up = (event: PointerEvent) => {
      if (grip && command && event.type === "pointerup") void commit(command);
      else if (grip) cancelPreview();
      if (grip) {
        onGrip(false);
        stage.setState({ grip: null });
      }
      grip = null;
      command = null;
    };
    const away = () => {
      if (!grip && stage.getState().grip) stage.setState({ grip: null });
    };
    pane.addEventListener("pointerdown", down, { capture: true });
    pane.addEventListener("pointermove", move, { capture: true });
    pane.addEventListener("pointerup", up);
    pane.addEventListener("pointercancel", up);
    pane.addEventListener("pointerleave", away);
    return () => {
      pane.removeEventListener("pointerdown", down, { capture: true });
      pane.removeEventListener("pointermove", move, { capture: true });
      pane.removeEventListener("pointerup", up);
      pane.removeEventListener("pointercancel", up);
      pane.removeEventListener("pointerleave", away);
    };
  }, [pane, outside, onGrip]);
}
