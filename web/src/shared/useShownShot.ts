import { useMemo } from "react";
import { useStore } from "zustand";
import { triedOn } from "../api/changes";
import type { Shot } from "../api/types";
import { motion } from "../stores/motion";
import { openShot } from "../stores/openShot";

/** The document that is shown: the one that is kept, or what comes of an edit that is being chosen. `tried`: the latter. */
export function useShownShot(): { shot: Shot | undefined; tried: boolean } {
  const state = useStore(openShot, (each) => each.state);
  // What differs is told from the same document: of this revision, seen through this variant.
  const changes = useStore(motion, (each) =>
    each.revision === state?.revision && each.variant === state?.variant ? each.tried : null,
  );
  const stored = state?.document;
  const shown = useMemo(() => (stored && changes ? triedOn(stored, changes) : stored), [stored, changes]);
  return { shot: shown, tried: changes !== null };
}
