import { useEffect, useRef } from "react";
import { motion, rowOf } from "../stores/motion";
import { transport } from "../stores/transport";
import { say } from "./say";

/** Readings during playback; NaN where unknown. */
export type Flow = { streakPx: number; distanceM: number; heightM: number; speedMS: number };

const EVERY_MS = 100;

function flowNow(): Flow | null {
  const flow = motion.getState().arrays.get("flow");
  if (!flow) return null;
  const at = rowOf(transport.getState().frame) * flow.columns;
  const [streakPx = Number.NaN, distanceM = Number.NaN, heightM = Number.NaN, speedMS = Number.NaN] =
    flow.data.subarray(at, at + flow.columns);
  return { streakPx, distanceM, heightM, speedMS };
}

/** A number with its digits; dots where it is not known. */
export function shown(value: number, digits: number): string {
  return Number.isFinite(value) ? value.toFixed(digits) : "…";
}

/** Writes what is watched into an element as frames go by, about ten times a second, without re-rendering. */
export function useFlow(write: (flow: Flow) => string): React.RefObject<HTMLSpanElement | null> {
  const ref = useRef<HTMLSpanElement>(null);
  const writeRef = useRef(write);
  writeRef.current = write;
  useEffect(() => {
    let waiting = 0;
    let written = 0;
    const writeText = () => {
      waiting = 0;
      written = performance.now();
      const flow = flowNow();
      if (ref.current) say(ref.current, flow ? writeRef.current(flow) : "");
    };
    const soon = () => {
      const waitMs = written + EVERY_MS - performance.now();
      if (waiting) return;
      if (waitMs <= 0) writeText();
      else waiting = window.setTimeout(writeText, waitMs);
    };
    writeText();
    const stops = [motion.subscribe(soon), transport.subscribe(soon)];
    return () => {
      clearTimeout(waiting);
      for (const stop of stops) stop();
    };
  }, []);
  return ref;
}
