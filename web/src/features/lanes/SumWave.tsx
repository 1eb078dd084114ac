import { useCallback } from "react";
import { useStore } from "zustand";
import type { MotionArray } from "../../api/motion";
import { motion } from "../../stores/motion";
import { motionOf, sides } from "../../stores/sides";
import { LayerWave } from "./LayerWave";

/** The sum of all layers; during a comparison, its difference from the first compared one. */
export function SumWave({ width, height }: { width: number; height: number }) {
  const side = useStore(sides, ({ shown }) => shown[0]);
  const sideMotion = useStore(sides, ({ motions }) => side && motions[side.key]);
  const difference = useCallback(() => (side ? between(side.key) : null), [side, sideMotion]);
  const name = side ? `the difference to ${side.title}` : "sum";
  return (
    <div className="relative">
      <LayerWave
        key={side?.key ?? "sum"}
        width={width}
        height={height}
        name={name}
        array="sum"
        of={null}
        instead={difference}
      />
      {side && (
        <span className="cond pointer-events-none absolute top-0.5 left-1 max-w-[60%] truncate text-(--graphite) text-xs">
          difference to {side.title}
        </span>
      )}
    </div>
  );
}

/** Another sum less the shot's own, where both are of the same frames. */
function between(key: string): MotionArray | null {
  const own = motion.getState().arrays.get("sum");
  const there = motionOf(key)?.arrays;
  // Without layers there is nothing to subtract.
  const other = there?.get("bare") === there?.get("pose") ? undefined : there?.get("sum");
  if (!own) return null;
  if (other && other.data.length !== own.data.length) return null;
  const data = own.data.map((value, at) => (other?.data[at] ?? 0) - value);
  return { ...own, tag: `${own.tag} ${other?.tag}`, data };
}
