import { useEffect, useRef } from "react";
import { type PerspectiveCamera, Vector2 } from "three";
import { placeLens } from "../../acts/placeLens";
import type { Command } from "../../api/types";
import { type DragState, useDraggingOn } from "../../shared/useDragging";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";
import { stage } from "../../stores/stage";
import { pause } from "../../stores/transport";
import { selectPins, view } from "../../stores/view";
import { dragCaption, dragged, FIELDS_OF_MODE, found, type Grip, gripped, screenOf } from "./cameraDrag";

const ALL_LOCKED = 6;
const withRings = () => view.getState().board === "move";

/** Reports the part under the pointer while nothing is dragged. */
function useHover(pane: HTMLElement | null, camera: PerspectiveCamera): void {
  useEffect(() => {
    if (!pane) return;
    const over = (event: PointerEvent) => {
      if (event.buttons !== 0) return;
      const box = pane.getBoundingClientRect();
      const at = new Vector2(event.clientX - box.left, event.clientY - box.top);
      const part = found(screenOf(pane, camera), at, withRings())?.part ?? null;
      if (part === (stage.getState().grip?.part ?? null)) return;
      const text = part === "floor" ? "drag the camera over the floor" : (part ?? "");
      stage.setState({ grip: part ? { part, text } : null });
    };
    const away = (event: PointerEvent) => event.buttons === 0 && stage.setState({ grip: null });
    pane.addEventListener("pointermove", over);
    pane.addEventListener("pointerleave", away);
    return () => {
      pane.removeEventListener("pointermove", over);
      pane.removeEventListener("pointerleave", away);
    };
  }, [pane, camera]);
}

/** Dragging the camera in the Set view: over the floor, its rings in pan, tilt and roll, its mast in height. */
export function useCameraDrag(
  pane: HTMLElement | null,
  camera: PerspectiveCamera,
  onGrip: (held: boolean) => void,
): void {
  const grip = useRef<Grip | null>(null);
  const command = useRef<Command | null>(null);
  useHover(pane, camera);
  const atOf = ({ x, y, element }: DragState<void>) => {
    const box = element.getBoundingClientRect();
    return new Vector2(x - box.left, y - box.top);
  };
  const endGesture = () => {
    onGrip(false);
    stage.setState({ grip: null });
    grip.current = null;
    command.current = null;
  };
  useDraggingOn(pane, {
    press: (held) => {
      if (view.getState().picking) return false;
      grip.current = gripped(screenOf(held.element, camera), atOf(held), held, withRings());
      if (!grip.current) return false;
      if (!withRings()) selectPins([]);
      pause();
      onGrip(true);
      return true;
    },
    move: (held) => {
      const now = grip.current;
      if (!now) return;
      const pose = dragged(now, screenOf(held.element, camera), atOf(held), new Vector2(held.dx, held.dy));
      stage.setState({ grip: { part: now.mode === "turn" ? "floor" : now.mode, text: dragCaption(now, pose) } });
      const next = placeLens(pose, FIELDS_OF_MODE[now.mode]);
      command.current = (next.locked ?? []).length < ALL_LOCKED ? next : null;
      if (command.current) preview(command.current);
    },
    drop: () => {
      if (command.current) void commit(command.current);
      else cancelPreview();
      endGesture();
    },
    tap: endGesture,
    cancel: () => {
      cancelPreview();
      endGesture();
    },
  });
}
