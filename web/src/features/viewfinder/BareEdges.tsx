import { useStore } from "zustand";
import { useFollowedFrame } from "../../shared/useFollowedFrame";
import { useMotionArray } from "../../shared/useMotionArray";
import { rowOf } from "../../stores/motion";
import { openShot } from "../../stores/openShot";
import { view } from "../../stores/view";

const SIDES = ["left", "right", "bottom", "top"] as const;
/** Gaps thinner than this are not hatched. */
const THINNEST_PX = 3;

/** Hatching where no plate fills the frame. */
export function BareEdges({ width, height }: { width: number; height: number }) {
  const array = useMotionArray("coverage");
  const picture = useStore(openShot, (state) => state.state?.document.picture);
  const bypass = useStore(view, (state) => state.bypass);
  const frame = useFollowedFrame(true);
  if (!array || !picture || bypass) return null;
  const at = rowOf(frame) * array.columns;
  return SIDES.map((side, n) => {
    const bare = array.data[at + n] ?? 0;
    if (bare === 0) return null;
    const across = n < 2;
    const size = Math.max(
      THINNEST_PX,
      across ? (bare / picture.width_px) * width : (bare / picture.height_px) * height,
    );
    return (
      <span
        key={side}
        role="img"
        data-bare={side}
        aria-label={`${bare.toFixed(1)} px of the ${side} side are not filled`}
        className="hatched pointer-events-none absolute"
        style={{ [side]: 0, ...(across ? { width: size, top: 0, bottom: 0 } : { height: size, left: 0, right: 0 }) }}
      />
    );
  });
}
