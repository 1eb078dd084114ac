import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { motion } from "../stores/motion";
import { transport } from "../stores/transport";

type Total = { swing: string; most: string; told: string };

const PAST_ALL_PX = 1e6;

const atEdges = (margin: number): string =>
  margin < PAST_ALL_PX
    ? `it needs ${margin.toFixed(0)} px of picture beyond the edges (at the distance of the subject)`
    : "it looks past the edges of any picture";

/** How large the shake is on screen, in words: over the shot, or over the loop range. */
export function useTotal(): Total | null {
  const loop = useStore(transport, (each) => each.loop?.join("–"));
  const [swing, most, margin] = useStore(
    motion,
    useShallow(({ readings }) => [readings?.total_swing_px, readings?.total_most_px, readings?.margin_px]),
  );
  if (swing === undefined || most === undefined) return null;
  const over = loop ? `frames ${loop}, the loop range` : "the whole shot";
  const edges = typeof margin === "number" ? `; ${atEdges(margin)}` : "";
  return {
    swing: swing.toFixed(0),
    most: most.toFixed(0),
    told: `Over ${over} the picture's centre swings ${swing.toFixed(1)} px and goes ${most.toFixed(1)} px at most${edges}`,
  };
}
