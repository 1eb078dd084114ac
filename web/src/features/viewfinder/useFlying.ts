import { useEffect, useRef } from "react";
import { useStore } from "zustand";
import type { Command } from "../../api/types";
import { useRecording } from "../../shared/number";
import { useDraggingOn } from "../../shared/useDragging";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";
import { mountId } from "../../stores/rig";
import { pause, transport } from "../../stores/transport";
import { view } from "../../stores/view";

/** Degrees a pixel of dragging turns, metres it shifts, metres a notch of the wheel goes forward. */
const TURN_DEG = 0.08;
const SHIFT_M = 0.004;
const STEP_M = 0.0015;
const WHEEL_RESTS_MS = 220;

const NO_MOTION = { pan_deg: 0, tilt_deg: 0, truck_m: 0, pedestal_m: 0, dolly_m: 0 };
type Steps = typeof NO_MOTION;

function flight(steps: Steps): Command {
  const { keyEveryChange: key, locks: locked } = view.getState();
  const mount = mountId();
  return { type: "fly", frame: transport.getState().frame, roll_deg: 0, ...steps, key, mount, locked };
}

/** Dragging in an element flies the camera: it looks around, with Shift it shifts; the wheel goes forward and back. While the
 * shot plays and every change is keyed, the flight is recorded; else the shot is paused. */
export function useFlying(element: HTMLElement | null, active: boolean): void {
  const steps = useRef(NO_MOTION);
  const last = useRef({ x: 0, y: 0 });
  const keys = useStore(view, (each) => each.keyEveryChange);
  const { hold, release } = useRecording<Steps>(keys, (samples) => ({
    type: "record_flight",
    mount: mountId(),
    locked: view.getState().locks,
    samples: samples.map(({ frame, value }) => ({ frame, ...value })),
  }));
  const land = () => {
    const done = steps.current;
    steps.current = NO_MOTION;
    const recorded = release();
    if (recorded) void commit(recorded);
    else if (Object.values(done).some((value) => value !== 0)) void commit(flight(done));
  };
  const fly = (by: Partial<Steps>) => {
    const now = steps.current;
    const moved = Object.entries(by).map(([way, step]) => [way, now[way as keyof Steps] + step]);
    steps.current = { ...now, ...Object.fromEntries(moved) };
    preview(hold(steps.current) ?? flight(steps.current));
  };
  useDraggingOn(
    element,
    {
      press: ({ x, y }) => {
        if (!keys) pause();
        last.current = { x, y };
        return true;
      },
      move: ({ x, y, shiftKey }) => {
        const [dx, dy] = [x - last.current.x, y - last.current.y];
        last.current = { x, y };
        if (shiftKey) fly({ truck_m: -dx * SHIFT_M, pedestal_m: dy * SHIFT_M });
        else fly({ pan_deg: dx * TURN_DEG, tilt_deg: dy * TURN_DEG });
      },
      drop: land,
      cancel: () => {
        steps.current = NO_MOTION;
        release();
        cancelPreview();
      },
    },
    active,
  );
  const hands = useRef({ fly, land });
  hands.current = { fly, land };
  useEffect(() => {
    if (!element || !active) return;
    let resting = 0;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      hands.current.fly({ dolly_m: -event.deltaY * STEP_M });
      clearTimeout(resting);
      resting = window.setTimeout(() => hands.current.land(), WHEEL_RESTS_MS);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => {
      clearTimeout(resting);
      element.removeEventListener("wheel", wheel);
      // The position is kept, even if flying ends before the wheel rests.
      hands.current.land();
    };
  }, [element, active]);
}
