import { roughly, varies } from "../../api/param";
import type { Param } from "../../api/types";
import { rowOf } from "../../stores/motion";
import { useFollowedFrame } from "../useFollowedFrame";
import { useMotionArray } from "../useMotionArray";
import { useWanted } from "./useWanted";

/** Value of a number at the present frame, as the core samples it. `live` follows what is tried on for numbers too that never change, and
 * the frame while it plays. */
export function useNumberAt(at: string, param: Param, live = false): number {
  const frame = useFollowedFrame(live);
  const isWatched = live || varies(param);
  useWanted(isWatched ? [at] : []);
  const array = useMotionArray(`curve:${at}`);
  return (isWatched ? array?.data[rowOf(frame)] : undefined) ?? roughly(param);
}
