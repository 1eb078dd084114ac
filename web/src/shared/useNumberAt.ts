import type { Param } from "../api/types";
import { rowOf } from "../stores/motion";
import { useMotionArray } from "./useMotionArray";
import { usePausedFrame } from "./usePausedFrame";
import { useWanted } from "./useWanted";

/** Value of a number at the present frame, as the core samples it. `live` follows what is tried on for fixed numbers too. */
export function useNumberAt(at: string, param: Param, live = false): number {
  const frame = usePausedFrame();
  const asked = live || param.state === "keyed";
  useWanted(asked ? [at] : []);
  const array = useMotionArray(`curve:${at}`);
  const sampled = asked ? array?.data[rowOf(frame)] : undefined;
  return sampled ?? (param.state === "fixed" ? param.value : (param.curve.keys[0]?.value ?? 0));
}
