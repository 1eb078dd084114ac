import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { AxisName } from "../../api/types";
import { motion } from "../../stores/motion";

/** The axes that a layer moves at all. */
export function useMoving(layer: string): AxisName[] {
  return useStore(
    motion,
    useShallow(({ readings }) => {
      const rows = readings?.layers.find((each) => each.layer === layer)?.axes ?? [];
      return rows.filter(({ moves }) => moves).map(({ axis }) => axis);
    }),
  );
}
