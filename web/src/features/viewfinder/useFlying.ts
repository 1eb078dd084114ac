import { useEffect, useRef } from "react";
import type { Command } from "../../api/types";
import { commit, preview } from "../../stores/session";
import { pause, transport } from "../../stores/transport";
import { view } from "../../stores/view";

/** Degrees a pixel of dragging turns, metres it shifts, metres a notch of the wheel goes forward. */
const TURN_DEG = 0.08;
const SHIFT_M = 0.004;
const STEP_M = 0.0015;
const WHEEL_RESTS_MS = 220;

type Steps = { pan_deg: number; tilt_deg: number; truck_m: number; pedestal_m: number; dolly_m: number };

const STILL: Steps = { pan_deg: 0, tilt_deg: 0, truck_m: 0, pedestal_m: 0, dolly_m: 0 };

function flight(steps: Steps): Command {
  return {
    type: "fly",
    frame: transport.getState().frame,
    roll_deg: 0,
    ...steps,
    key: view.getState().autoKey,
    mount: view.getState().mount,
    locked: view.getState().locks,
  };
}

/** Dragging in an element flies the camera: it looks around, with Shift it shifts; the wheel goes forward and back. */
export function useFlying(ref: React.RefObject<HTMLElement | null>, active: boolean): void {
  const steps = useRef(STILL);
  useEffect(() => {
    const element = ref.current;
    if (!element || !active) return;
    let last: { x: number; y: number } | null = null;
    let resting = 0;
    const land = () => {
      const done = steps.current;
      steps.current = STILL;
      if (Object.values(done).some((value) => value !== 0)) void commit(flight(done));
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      pause();
      element.setPointerCapture(event.pointerId);
      last = { x: event.clientX, y: event.clientY };
    };
    const move = (event: PointerEvent) => {
      if (!last) return;
      const dx = event.clientX - last.x;
      const dy = event.clientY - last.y;
      last = { x: event.clientX, y: event.clientY };
      const now = steps.current;
      steps.current = event.shiftKey
        ? { ...now, truck_m: now.truck_m - dx * SHIFT_M, pedestal_m: now.pedestal_m + dy * SHIFT_M }
        : { ...now, pan_deg: now.pan_deg + dx * TURN_DEG, tilt_deg: now.tilt_deg + dy * TURN_DEG };
      preview(flight(steps.current));
    };
    const up = () => {
      last = null;
      land();
    };
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      steps.current = { ...steps.current, dolly_m: steps.current.dolly_m - event.deltaY * STEP_M };
      preview(flight(steps.current));
      clearTimeout(resting);
      resting = window.setTimeout(land, WHEEL_RESTS_MS);
    };
    element.addEventListener("pointerdown", down);
    element.addEventListener("pointermove", move);
    element.addEventListener("pointerup", up);
    element.addEventListener("pointercancel", up);
    element.addEventListener("wheel", wheel, { passive: false });
    return () => {
      clearTimeout(resting);
      element.removeEventListener("pointerdown", down);
      element.removeEventListener("pointermove", move);
      element.removeEventListener("pointerup", up);
      element.removeEventListener("pointercancel", up);
      element.removeEventListener("wheel", wheel);
    };
  }, [ref, active]);
}
