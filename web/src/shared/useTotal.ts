import { useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { motion } from "../stores/motion";
import { transport } from "../stores/transport";

type Total = { typical: string; peak: string; told: string };

const PAST_ALL_PX = 1e6;

const atEdges = (margin: number): string =>
  margin < PAST_ALL_PX ? `needs ${margin.toFixed(0)} px overscan (at the subject's distance)` : "no overscan is enough";

/** Size of the shake on screen, in words: over the shot, or over the loop range. */
export function useTotal(): Total | null {
  const loop = useStore(transport, (each) => each.loop?.join("–"));
  const [typical, peak, margin] = useStore(
    motion,
    useShallow(({ readings }) => [readings?.typical_px, readings?.peak_px, readings?.margin_px]),
  );
  if (typical === undefined || peak === undefined) return null;
  const over = loop ? `frames ${loop}, the loop range` : "the whole shot";
  const edges = typeof margin === "number" ? `; ${atEdges(margin)}` : "";
  return {
    typical: typical.toFixed(0),
    peak: peak.toFixed(0),
    told: `Distance of the picture's center from the bare move over ${over}: typical (RMS) ${typical.toFixed(1)} px, peak ${peak.toFixed(1)} px${edges}`,
  };
}
