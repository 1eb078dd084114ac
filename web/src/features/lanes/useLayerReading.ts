import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Span } from "../../api/types";
import { motion } from "../../stores/motion";

/** Whether a layer is active; true until known. */
export function useHeard(id: string): boolean {
  return useStore(motion, ({ readings }) => readings?.layers.find(({ layer }) => layer === id)?.heard ?? true);
}

/** Active range of a layer, with the preview. */
export function useLayerSpan(id: string): Span | undefined {
  return useStore(
    motion,
    useShallow(({ readings }) => readings?.layers.find(({ layer }) => layer === id)?.span),
  );
}

/** Active range of a clip, with the preview. */
export function useClipSpan(id: string): Span | undefined {
  return useStore(
    motion,
    useShallow(({ readings }) => readings?.clips.find(({ clip }) => clip === id)?.span),
  );
}
