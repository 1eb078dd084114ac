import { useMemo } from "react";
import { useStore } from "zustand";
import { triedOn } from "../api/changes";
import type { Shot } from "../api/types";
import { motion } from "../stores/motion";
import { openShot } from "../stores/openShot";

/** The displayed document: the stored one, or the result of a previewed edit. `tried`: the latter. */
export function useShownShot(): { shot: Shot | undefined; tried: boolean } {
  const state = useStore(openShot, (each) => each.state);
  // Differences are relative to the same document: of this revision, through this variant.
  const changes = useStore(motion, (each) =>
    each.revision === state?.revision && each.variant === state?.variant ? each.tried : null,
  );
  const stored = state?.document;
  const shown = useMemo(() => (stored && changes ? triedOn(stored, changes) : stored), [stored, changes]);
  return { shot: shown, tried: changes !== null };
}
