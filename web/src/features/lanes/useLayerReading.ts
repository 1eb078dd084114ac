import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Span } from "../../api/types";
import { motion } from "../../stores/motion";

/** Whether a layer is heard; yes until something is known. */
export function useHeard(id: string): boolean {
  return useStore(motion, ({ readings }) => readings?.layers.find(({ layer }) => layer === id)?.heard ?? true);
}

/** When a layer is heard, with what is tried on. */
export function useLayerSpan(id: string): Span | undefined {
  return useStore(
    motion,
    useShallow(({ readings }) => readings?.layers.find(({ layer }) => layer === id)?.span),
  );
}

/** When a clip is heard, with what is tried on. */
export function useClipSpan(id: string): Span | undefined {
  return useStore(
    motion,
    useShallow(({ readings }) => readings?.clips.find(({ clip }) => clip === id)?.span),
  );
}
