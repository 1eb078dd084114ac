import { useStore } from "zustand";
import type { MotionArray } from "../api/motion";
import { motion } from "../stores/motion";

/** An array of the motion. It stays the same object until its samples change, so views of others are left alone. */
export function useMotionArray(name: string): MotionArray | undefined {
  return useStore(motion, (state) => state.arrays.get(name));
}
