import { useStore } from "zustand";
import { motion } from "../stores/motion";

/** Re-renders when motion changed; the arrays themselves are read from the store. */
export function useMotionVersion(): number {
  return useStore(motion, (state) => state.version);
}
